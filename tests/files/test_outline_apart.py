"""A drawing read in a process of its own: the same outline, and no more than it is given."""

import time
from pathlib import Path

import pytest

from lumvak.files import outline_apart
from lumvak.files.outline_apart import load_outline_apart
from lumvak.files.outline_file import load_outline
from lumvak.files.problem import FileProblem
from tests.files.test_outline_file import dxf


def lines(path: Path, count: int) -> Path:
    """A drawing of so many lines, which its reader needs long for."""
    run = "".join(
        f"0\nLINE\n8\n0\n10\n{place % 100}\n20\n0\n11\n{place % 100 + 1}\n21\n5\n"
        for place in range(count)
    )
    path.write_text(f"0\nSECTION\n2\nENTITIES\n{run}0\nENDSEC\n0\nEOF\n", "ascii")
    return path


def test_it_is_the_outline_that_is_read_here(tmp_path: Path) -> None:
    path = dxf(tmp_path / "room.dxf")
    assert load_outline_apart(path, lambda _: True) == load_outline(path)


def test_what_is_wrong_comes_back_in_the_same_words(tmp_path: Path) -> None:
    path = tmp_path / "room.svg"
    path.write_text("<svg>", "utf-8")
    with pytest.raises(FileProblem) as here:
        load_outline(path)
    with pytest.raises(FileProblem) as apart:
        load_outline_apart(path, lambda _: True)
    assert str(apart.value) == str(here.value)


def test_a_drawing_of_many_lines_is_stopped_at_once(tmp_path: Path) -> None:
    path = lines(tmp_path / "room.dxf", 100_000)
    asked: list[float] = []

    def once_more(share: float) -> bool:
        asked.append(share)
        return len(asked) < 4

    begin = time.monotonic()
    with pytest.raises(FileProblem, match="was stopped; nothing was changed"):
        load_outline_apart(path, once_more)
    assert time.monotonic() - begin < 3.0
    assert asked == sorted(asked)


@pytest.mark.parametrize(
    ("name", "value", "said"),
    [("LONGEST_S", 0.3, "takes over 0.3 s"), ("MEMORY_BYTES", 60_000_000, "too much memory")],
)
def test_it_takes_no_more_time_and_memory_than_it_is_given(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, name: str, value: float, said: str
) -> None:
    path = lines(tmp_path / "room.dxf", 50_000)
    if name == "MEMORY_BYTES":
        # The other process reads its own limit: one that ends without a word stands for it.
        monkeypatch.setattr(outline_apart.sys, "executable", "true")
    monkeypatch.setattr(outline_apart, name, value)
    with pytest.raises(FileProblem, match=said):
        load_outline_apart(path, lambda _: True)
