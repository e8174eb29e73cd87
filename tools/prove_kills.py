"""Kills the window, its watchdog and the bench while tests run: ./bench prove-kills [how many].

Each time load and supply must be off within three seconds, and no reading that was shown may be
missing from the recovery copy.
"""

from __future__ import annotations

import json
import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
DEMO = ROOT / "src" / "lumvak" / "data" / "demos" / "orchard-barrow.lumvak.json"
HOW_MANY, WITHIN_S, LONGEST_S = 300, 3.0, 40.0
WHOM = ("window", "watchdog", "server")


def child(file: str, resources: str) -> None:
    """A window that runs tests with instruments, answers by itself and tells what it shows."""
    from lumvak.ui.application import make_application, make_window
    from lumvak.ui.stages.prove.runner import BenchSource

    app = make_application()
    window = make_window(app, Path(file))
    window.show()
    window.open_stage("prove")
    stage: Any = window.stages["prove"]
    prover = stage.prover
    shown = 0

    def show(readings: list[object]) -> None:
        nonlocal shown
        shown += len(readings)
        print(f"shown {shown}", flush=True)

    prover.read.connect(show)
    begun = False
    told = ""
    while True:
        app.processEvents()
        time.sleep(0.01)
        if prover.results is not None and not prover.busy and not begun:
            begun = True
            prover.start(BenchSource(json.loads(resources)), ("groups", "drops"))
        runner = prover.runner
        if runner is None:
            continue
        if runner.asks:
            runner.answer("yes")
        dog = runner.watchdog
        state = "none" if dog is None or dog.process is None else str(dog.process.pid)
        if state != told:
            told = state
            print(f"watchdog {state}", flush=True)
        if runner.ended:
            print(f"ended {runner.alarm or runner.problem or 'well'}", flush=True)
            return


def main(count: int) -> int:
    """Kill so many times; 0 where all held."""
    told: Counter[str] = Counter()
    draw = random.Random(5)
    for turn in range(count):
        whom = WHOM[turn % len(WHOM)]
        problem = _once(whom, draw.uniform(0.0, 5.0))
        told[f"{whom}: {problem or 'held'}"] += 1
        if problem:
            print(f"{turn} {whom}: {problem}", flush=True)
        if turn % 25 == 24:
            print(f"{turn + 1} of {count}", flush=True)
    for name, number in sorted(told.items()):
        print(f"{name}: {number}")
    return int(any(not name.endswith("held") for name in told))


def _once(whom: str, after_s: float) -> str:
    """Kill once; what was wrong, empty where nothing."""
    with tempfile.TemporaryDirectory() as home:
        file = Path(home) / "pack.lumvak.json"
        file.write_text(DEMO.read_text("utf-8"), "utf-8")
        env = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", "QT_QPA_PLATFORM": "offscreen"}
        for name in ("CONFIG", "STATE", "DATA", "CACHE"):
            env[f"XDG_{name}_HOME"] = f"{home}/{name}"
        server = subprocess.Popen(
            [sys.executable, "-m", "lumvak", "bench", "--simulate", str(file), "--speed", "1"],
            stdout=subprocess.PIPE,
            text=True,
            env=env,
        )
        assert server.stdout is not None
        resources = dict(server.stdout.readline().split() for _ in range(5))
        named = {role: resources[role] for role in ("meter", "supply", "load")}
        window = subprocess.Popen(
            [sys.executable, __file__, "child", str(file), json.dumps(named)],
            stdout=subprocess.PIPE,
            text=True,
            env=env,
        )
        try:
            return _killed(whom, after_s, server, window, resources, Path(home))
        finally:
            for process in (window, server):
                process.kill()
                process.wait()


def _killed(
    whom: str,
    after_s: float,
    server: subprocess.Popen[str],
    window: subprocess.Popen[str],
    resources: dict[str, str],
    home: Path,
) -> str:
    from lumvak.bench.instruments import ElectronicLoad, InstrumentError, Supply, VisaLine

    assert window.stdout is not None
    os.set_blocking(window.stdout.fileno(), False)
    shown, dog, said, end = 0, 0, "", time.monotonic() + LONGEST_S
    kill_at = 0.0
    while time.monotonic() < end:
        for line in iter(window.stdout.readline, ""):
            word, _, rest = line.strip().partition(" ")
            if word == "shown":
                shown = int(rest)
            elif word == "watchdog" and rest != "none":
                dog, kill_at = int(rest), time.monotonic() + after_s
            elif word == "ended":
                said = rest
        if kill_at and time.monotonic() >= kill_at:
            break
        time.sleep(0.01)
    if not dog:
        return f"no watchdog was seen, {said}"
    victim = {"window": window.pid, "watchdog": dog, "server": server.pid}[whom]
    os.kill(victim, signal.SIGKILL)
    if whom == "server":
        return _said_of_server(window, said)
    off_by = time.monotonic() + WITHIN_S
    try:
        load = ElectronicLoad(VisaLine(resources["load"]))
        supply = Supply(VisaLine(resources["supply"]))
        while time.monotonic() < off_by:
            if not load.is_on and not supply.is_on:
                break
            time.sleep(0.05)
        else:
            return "still on after three seconds"
    except InstrumentError as problem:
        return f"cannot be asked: {problem}"
    return _lost(home, shown) if whom == "window" else ""


def _said_of_server(window: subprocess.Popen[str], said: str) -> str:
    """Nobody can read back an instrument that is gone: that must be said."""
    assert window.stdout is not None
    end = time.monotonic() + LONGEST_S
    while time.monotonic() < end and not said:
        for line in iter(window.stdout.readline, ""):
            if line.startswith("ended"):
                said = line
        time.sleep(0.02)
    return "" if "Pull its plug" in said else f"said “{said.strip()}”"


def _lost(home: Path, shown: int) -> str:
    """Whether a reading that was shown is in no recovery copy."""
    copies = list((home / "STATE").rglob("copy-*.json"))
    kept = max(
        (
            len(json.loads(it.read_text())["project"].get("proving", {}).get("readings", []))
            for it in copies
        ),
        default=0,
    )
    return "" if kept >= shown else f"{shown} were shown, {kept} are kept"


if __name__ == "__main__":
    if sys.argv[1:2] == ["child"]:
        child(sys.argv[2], sys.argv[3])
    else:
        sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else HOW_MANY))
