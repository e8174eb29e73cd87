"""What a stranger gets: the wheel installed by itself, and every example that is printed."""

import json
import os
import re
import shlex
import subprocess
import sys
import sysconfig
import zipfile
from pathlib import Path

import pytest

from lumvak.cli.commands import COMMANDS

ROOT = Path(__file__).parents[1]
HANDBOOK = ROOT / "src" / "lumvak" / "data" / "handbook"
# What an example needs beside it.
CELLS = "number;mAh;mOhm;V\n" + "".join(
    f"{place};{2500 + 7 * place};{22 + place % 3};3.{60 + place}\n" for place in range(1, 15)
)
PARTS = '{"format": "lumvak-parts", "version": 1, "title": "mine"}'
# Runs one example after the other in one process: what each prints, and its status.
RUNNER = """
import contextlib, io, json, sys
from lumvak.cli.main import main

found = []
for words in json.load(open("examples.json")):
    out, err = io.TextIOWrapper(io.BytesIO(), "utf-8"), io.StringIO()
    if words and words[-2:-1] == ["<"]:
        sys.stdin = open(words[-1], encoding="utf-8")
        words = words[:-2]
    try:
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main(words)
    except SystemExit as ended:
        status = ended.code
    out.seek(0)
    found.append([words, status, out.buffer.getvalue()[:300].decode("utf-8", "replace"),
                  err.getvalue()[:300]])
json.dump(found, open("found.json", "w"))
import lumvak
print(lumvak.__file__)
"""


def examples() -> list[list[str]]:
    """Every example of help, manual, README and handbook, in words, those that write first."""
    lines = [line for item in COMMANDS.values() for line in item.examples]
    pages = [ROOT / "README.md", *HANDBOOK.glob("*.md")]
    for page in pages:
        if not page.is_symlink():
            text = page.read_text("utf-8")
            lines += re.findall(r"^    lumvak (.+)$", text, re.MULTILINE)
            lines += re.findall(r"`lumvak ([^`]+)`", text)
    found = [shlex.split(line) for line in dict.fromkeys(lines)]
    serving = {"bench"}
    told = {("--install-desktop",), ("man", "NAME"), ("passport",)}
    return [words for words in found if words[0] not in serving and tuple(words) not in told]


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """An environment with the wheel in it; what it depends on is lent by ours."""
    folder = tmp_path_factory.mktemp("shipped")
    build = [sys.executable, "-m", "hatchling", "build", "-t", "wheel", "-d", str(folder)]
    subprocess.run(build, cwd=ROOT, check=True, capture_output=True)
    (wheel,) = folder.glob("*.whl")
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(folder / "env")], check=True)
    python = folder / "env" / "bin" / "python"
    site = subprocess.run(
        [python, "-c", "import sysconfig; print(sysconfig.get_path('purelib'))"],
        check=True,
        capture_output=True,
        text=True,
    ).stdout.strip()
    pip = [sys.executable, "-m", "pip", "--python", str(python), "install", "-q"]
    subprocess.run([*pip, "--no-deps", "--no-index", str(wheel)], check=True, env=quiet())
    Path(site, "lent.pth").write_text(sysconfig.get_path("purelib") + "\n", "utf-8")
    return folder


def quiet() -> dict[str, str]:
    """Our surroundings without our sources."""
    lent = {key: value for key, value in os.environ.items() if key != "PYTHONPATH"}
    return {**lent, "PIP_DISABLE_PIP_VERSION_CHECK": "1"}


def test_every_example_that_is_printed_runs(installed: Path, tmp_path: Path) -> None:
    bin_ = installed / "env" / "bin"
    for words in (
        (
            "size",
            "--rated-voltage",
            "36V",
            "--current",
            "12A",
            "--runtime",
            "1h",
            "--save",
            "barrow.lumvak.json",
        ),
        ("new", "found.lumvak.json", "--sample", "hay-tedder"),
        ("label", "barrow.lumvak.json", "-o", "label.svg"),
    ):
        done = subprocess.run([bin_ / "lumvak", *words], cwd=tmp_path, env=quiet(), check=False)
        assert done.returncode in (0, 1)
    (tmp_path / "cells.csv").write_text(CELLS, "utf-8")
    (tmp_path / "parts.json").write_text(PARTS, "utf-8")
    asked = [
        [*words, "--force"] if taken(words) and "--force" not in words else words
        for words in examples()
    ]
    assert len(asked) > 70
    (tmp_path / "examples.json").write_text(json.dumps(asked), "utf-8")
    done = subprocess.run(
        [bin_ / "python", "-c", RUNNER],
        cwd=tmp_path,
        env={**quiet(), "XDG_DATA_HOME": str(tmp_path / "data")},
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    assert str(installed) in done.stdout, "it is the wheel that runs, not the sources"
    found = json.loads((tmp_path / "found.json").read_text("utf-8"))
    assert not [item for item in found if item[1] not in (0, 1) or "Traceback" in item[3]]


def taken(words: list[str]) -> bool:
    """Whether a command writes a file that an earlier example may have written."""
    return any(name in words for name in ("-o", "--out", "--save", "--to", "new"))


def test_the_wheel_has_all_that_is_opened_from_it(installed: Path) -> None:
    (wheel,) = installed.glob("*.whl")
    names = set(zipfile.ZipFile(wheel).namelist())
    for wanted in (
        "lumvak/py.typed",
        "lumvak/data/parts/cells.json",
        "lumvak/data/fonts/OFL.txt",
        "lumvak/data/fonts/Barlow_400Regular.ttf",
        "lumvak/data/handbook/need.md",
        "lumvak/data/handbook/methods.md",
        "lumvak/data/demos/orchard-barrow.lumvak.json",
        "lumvak/data/desktop/lumvak.svg",
        "lumvak/core/evaluate.py",
    ):
        assert wanted in names
    archive = zipfile.ZipFile(wheel)
    told = {
        name.rsplit("/", 1)[1]: archive.read(name).decode("utf-8")
        for name in names
        if ".dist-info/" in name
    }
    assert "lumvak = lumvak.__main__:run" in told["entry_points.txt"]
    head, _, readme = told["METADATA"].partition("\n\n")
    for wanted in ("Classifier: Typing :: Typed", "Requires-Dist: numpy<3", "License-File: "):
        assert wanted in head
    assert archive.read("lumvak/data/handbook/methods.md").startswith(b"# ")
    # Nothing on a package index leads nowhere: what is not on the web is no link.
    assert not re.findall(r"\]\((?!https?:)", readme) and "![" not in readme


def test_the_readme_shows_its_pictures_where_it_has_a_home() -> None:
    sys.path.insert(0, str(ROOT))
    from hatch_build import readme_for

    text = readme_for((ROOT / "README.md").read_text("utf-8"), "https://example.org/lumvak/")
    assert "![Cells and count](https://example.org/lumvak/docs/screenshots/cells.png)" in text
    assert not re.findall(r"\]\((?!https?:)", text)
