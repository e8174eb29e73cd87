"""Batches with lines that are none, and the program in surroundings that nobody wants."""

from __future__ import annotations

import contextlib
import io
import json
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path
from unittest.mock import patch

from tests.conftest import BARROW
from tests.mutations import ODD, spoiled
from tools.faults_killed import CHILDREN, HOMES, homed

from lumvak.cli.main import main as lumvak

# A case of each command that takes them, a line each.
CASES = {
    "group": json.dumps(
        {
            "cells": [
                {"number": at, "ah": 2.0 + at / 50, "mohm": 20 + at / 9, "volts": 3.6}
                for at in range(1, 13)
            ],
            "series": 3,
            "parallel": 4,
            "seed": 1,
            "seconds": 1,
            "by": "capacity",
            "pins": [],
            "apart": [[1, 2]],
        }
    ),
    "taps": json.dumps(
        {
            "groups": [3.7, 3.71, 3.69],
            "readings": [0.0, 3.7, 7.41, 11.1],
            "meter_percent": 0.5,
            "meter_digits": 2,
            "resolution_v": 0.01,
        }
    ),
    "charge": json.dumps({"file": str(BARROW), "charger": "58.8V:4A:cccv:open=60V", "from": "20%"}),
    "balance": json.dumps(
        {
            "groups": "15.0Ah@80%,14.6Ah@78%",
            "bleed": "60mA@4.15V",
            "way": "top",
            "cycles": 2,
            "every": "3d",
            "stays": "2h",
            "leak": ["1:5mA"],
        }
    ),
}


def batch(seed: int) -> None:
    """A batch of spoiled lines between good ones; raises where a line is not answered."""
    draw = random.Random(seed)
    command = sorted(CASES)[seed % len(CASES)]
    good = CASES[command]
    bad = [spoiled(good, draw).replace("\n", " ").replace("\r", " ") for _ in range(3)]
    bad.append(draw.choice(ODD).replace("\n", " ").replace("\r", " "))
    lines = [good, *bad, good]
    said, error = io.StringIO(), io.StringIO()
    stream = io.TextIOWrapper(
        io.BytesIO("\n".join(lines).encode("utf-8", "surrogatepass")),
        encoding="utf-8",
        errors="surrogatepass",
    )
    with (
        patch("sys.stdin", stream),
        contextlib.redirect_stdout(said),
        contextlib.redirect_stderr(error),
    ):
        status = lumvak([command, "--batch"])
    answers = [json.loads(line) for line in said.getvalue().splitlines()]
    wanted = sum(bool(line.strip()) for line in lines)
    if len(answers) != wanted:
        raise ValueError(f"{command}: {len(answers)} answers to {wanted} lines")
    if "error" in answers[0] or "error" in answers[-1]:
        raise ValueError(f"{command}: a good line is answered with {answers[0]}"[:300])
    if status not in (0, 1, 2) or (status == 2) != any("error" in item for item in answers):
        raise ValueError(f"{command}: status {status}")
    if longest := max(len(str(item.get("error", ""))) for item in answers) > 700:
        raise ValueError(f"{command}: an error of {longest} characters")


# In which surroundings, what is asked there, and the statuses that are right.

Place = tuple[str, Callable[[Path, dict[str, str]], None]]
SIZE = ["size", "--rated-voltage", "36V", "--current", "18A", "--top", "1"]
WINDOW_S = 6.0


def _no_home(_: Path, env: dict[str, str]) -> None:
    for name in ("HOME", *HOMES):
        env.pop(name, None)


def _home_is_nowhere(folder: Path, env: dict[str, str]) -> None:
    _no_home(folder, env)
    env["HOME"] = str(folder / "no" / "such" / "home")


def _folders_are_files(folder: Path, env: dict[str, str]) -> None:
    for name in HOMES:
        path = folder / name.lower()
        path.write_text("a file", "utf-8")
        env[name] = str(path)


def _read_only(folder: Path, env: dict[str, str]) -> None:
    # Whoever may do everything writes there all the same; a folder that is none cannot be written.
    for name in HOMES:
        env[name] = "/proc/lumvak"


def _broken_inside(folder: Path, env: dict[str, str]) -> None:
    inside = folder / "lumvak"
    inside.mkdir()
    for name in ("settings.json", "own.json"):
        (inside / name).write_bytes(b"\xff\x00{")
    (inside / "recovery").write_text("no folder", "utf-8")


def _loops(folder: Path, env: dict[str, str]) -> None:
    (folder / "lumvak").symlink_to(folder / "lumvak")


def _plain(_: Path, env: dict[str, str]) -> None:
    for name in [key for key in env if key.startswith(("LC_", "LANG"))]:
        del env[name]
    env.update(LANG="C", LC_ALL="C", PYTHONCOERCECLOCALE="0", PYTHONUTF8="0")


def _odd_locale(_: Path, env: dict[str, str]) -> None:
    env.update(LANG="xx_YY.KOI8", LC_ALL="xx_YY.KOI8", LANGUAGE="?", LC_NUMERIC="de_DE")


def _planted(folder: Path, env: dict[str, str]) -> None:
    """A module in the folder at hand that would say so if it were run."""
    for name in ("json", "numpy", "lumvak"):
        (folder / f"{name}.py").write_text("raise SystemExit('planted')\n", "utf-8")


PLACES: tuple[Place, ...] = (
    ("as usual", lambda *_: None),
    ("no HOME", _no_home),
    ("HOME is nowhere", _home_is_nowhere),
    ("folders are files", _folders_are_files),
    ("folders cannot be written", _read_only),
    ("what is kept is broken", _broken_inside),
    ("links in a circle", _loops),
    ("LANG=C", _plain),
    ("an odd locale", _odd_locale),
    ("planted modules", _planted),
)


def _run(
    given: list[str], env: dict[str, str], folder: Path, **more: object
) -> tuple[int, str, str]:
    child = subprocess.Popen(
        [sys.executable, "-P", "-m", "lumvak", *given],
        env=env,
        cwd=folder,
        text=True,
        errors="replace",
        **{
            "stdin": subprocess.DEVNULL,
            "stdout": subprocess.PIPE,
            "stderr": subprocess.PIPE,
            **more,
        },  # type: ignore[call-overload]
    )
    CHILDREN.add(child)
    try:
        said, error = child.communicate(timeout=WINDOW_S if not given or given[0][0] == "/" else 90)
    except subprocess.TimeoutExpired:
        # A window goes on until it is told to end.
        child.terminate()
        said, error = child.communicate(timeout=30)
    finally:
        CHILDREN.discard(child)
    return child.returncode, said or "", error or ""


def _held(what: str, status: int, error: str, right: tuple[int, ...]) -> None:
    if "Traceback" in error or "planted" in error:
        raise ValueError(f"{what}: {error.strip()[-300:]}")
    if status not in right:
        raise ValueError(f"{what}: status {status}: {error.strip()[-200:]}")


def surroundings(seed: int) -> None:
    """Commands and the window in one of PLACES; raises ValueError where they do not answer."""
    name, make = PLACES[seed % len(PLACES)]
    with tempfile.TemporaryDirectory() as found:
        folder = Path(found)
        env = homed(found)
        make(folder, env)
        file = folder / "barrow.lumvak.json"
        shutil.copy(BARROW, file)
        for given, right in (
            (SIZE, (0,)),
            (["evaluate", str(file)], (0, 1)),
            (["explain", str(file), "pack.parallel", "--json"], (0,)),
            (["export", str(file), "--to", "svg", "-o", str(folder / "out.svg")], (0, 1)),
            ([str(file)], (0, -15, 143)),
            (["sise"], (2,)),
        ):
            status, _, error = _run(given, env, folder)
            _held(f"{name}: {given[0][-20:]}", status, error, right)


def streams(seed: int) -> None:
    """Closed streams, a full disk, a reader that goes away; raises ValueError on a bad end."""
    with tempfile.TemporaryDirectory() as found:
        folder = Path(found)
        env = homed(found)
        given = random.Random(seed).choice((SIZE, ["evaluate", str(BARROW)], [*SIZE, "--json"]))
        line = " ".join(f"'{word}'" for word in (sys.executable, "-P", "-m", "lumvak", *given))
        for shell, right in (
            (f"{line} > /dev/full", (3,)),
            (f"{line} >&-", (0, 1, 3)),
            (f"{line} 2>&-", (0, 1)),
            (f"{line} <&-", (0, 1)),
            (f"{line} | head -1 > /dev/null", (0,)),
            (f"'{sys.executable}' -P -m lumvak taps --batch <&-", (0,)),
            (f"'{sys.executable}' -P -m lumvak export '{BARROW}' --to svg -o /dev/full", (2, 3)),
        ):
            done = subprocess.run(
                ["sh", "-c", shell],
                env=env,
                cwd=folder,
                text=True,
                capture_output=True,
                timeout=120,
                check=False,
            )
            _held(shell[-40:], done.returncode, done.stderr, right)
