"""What is no label is refused in a line."""

from pathlib import Path

import pytest
from PIL import Image

from lumvak.files.label_reader import read_label
from lumvak.files.problem import FileProblem


@pytest.mark.parametrize(
    ("name", "held", "says"),
    [
        ("a.png", b"no picture", "is no picture"),
        ("a.svg", b"<svg/>", "no code is drawn"),
        ("a.svg", b"<svg>M0 0h1v1h-1zM9999 0h1v1h-1z</svg>", "more than a metre"),
        ("none.png", None, "is no picture"),
    ],
)
def test_a_file_that_is_no_label(tmp_path: Path, name: str, held: bytes | None, says: str) -> None:
    path = tmp_path / name
    if held is not None:
        path.write_bytes(held)
    with pytest.raises(FileProblem, match=says):
        read_label(str(path))


def test_a_picture_without_a_code(tmp_path: Path) -> None:
    path = tmp_path / "blank.png"
    Image.new("L", (200, 100), 255).save(path)
    with pytest.raises(FileProblem, match="no code"):
        read_label(str(path))
