"""What must hold of the project as a whole: locks, wheel, layers of entry."""

import re
import subprocess
import sys
import zipfile
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


@pytest.mark.parametrize("name", ["requirements.lock", "requirements-dev.lock"])
def test_locks_pin_everything_and_name_no_index(name: str) -> None:
    lines = [
        line for line in (ROOT / name).read_text("utf-8").splitlines() if not line.startswith("#")
    ]
    assert lines
    for line in lines:
        assert re.fullmatch(r"[A-Za-z0-9_.-]+==[A-Za-z0-9_.]+", line), line


def test_the_wheel_carries_its_data(tmp_path: Path) -> None:
    subprocess.run(
        [sys.executable, "-m", "hatchling", "build", "-t", "wheel", "-d", str(tmp_path)],
        cwd=ROOT,
        check=True,
        capture_output=True,
    )
    (wheel,) = tmp_path.glob("*.whl")
    names = set(zipfile.ZipFile(wheel).namelist())
    for wanted in (
        "lumvak/data/parts/cells.json",
        "lumvak/data/fonts/OFL.txt",
        "lumvak/data/fonts/Barlow_400Regular.ttf",
        "lumvak/data/handbook/need.md",
        "lumvak/data/demos/orchard-barrow.lumvak.json",
        "lumvak/core/evaluate.py",
    ):
        assert wanted in names
    entry = next(name for name in names if name.endswith("entry_points.txt"))
    assert b"lumvak = lumvak.cli.main:main" in zipfile.ZipFile(wheel).read(entry)


def test_links_in_the_documents_lead_somewhere() -> None:
    pages = [ROOT / "README.md", *ROOT.glob("docs/*.md"), *ROOT.glob("src/lumvak/data/**/*.md")]
    for page in pages:
        for target in re.findall(r"\]\(([^)#]+)\)", page.read_text("utf-8")):
            assert (page.parent / target).exists(), f"{page.name}: {target}"
