"""Ctrl+C: a command ends at once, in silence, and leaves nothing half written."""

import os
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

import lumvak
from tests.conftest import BARROW

ENVIRONMENT = {**os.environ, "PYTHONPATH": str(Path(lumvak.__file__).parents[1])}


@pytest.fixture
def hearing() -> Iterator[None]:
    """Interruptions are heard of, also where these tests were begun behind a shell."""
    before = signal.signal(signal.SIGINT, signal.default_int_handler)
    yield
    signal.signal(signal.SIGINT, before)


@pytest.mark.usefixtures("hearing")
@pytest.mark.parametrize(
    "words",
    [
        (
            "size",
            "--rated-voltage",
            "48V",
            "--current",
            "20A",
            "--runtime",
            "1h",
            "--top",
            "60",
            "--save",
            "pack.lumvak.json",
        ),
        ("prove", str(BARROW)),
        ("report", str(BARROW), "-o", "report.pdf"),
    ],
    ids=lambda words: words[0],
)
@pytest.mark.parametrize("after_s", [0.35, 1.2])
def test_it_ends_within_a_second(words: tuple[str, ...], after_s: float, tmp_path: Path) -> None:
    with subprocess.Popen(
        [sys.executable, "-m", "lumvak", *words],
        cwd=tmp_path,
        env=ENVIRONMENT,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    ) as process:
        time.sleep(after_s)
        process.send_signal(signal.SIGINT)
        begun = time.monotonic()
        _, err = process.communicate(timeout=20)
    # A second on a quiet machine; the tests run several at once.
    assert time.monotonic() - begun < 4.0
    assert "Traceback" not in err
    left = list(tmp_path.iterdir())
    if process.returncode not in (0, 1):
        assert process.returncode in (130, -signal.SIGINT) and not left
