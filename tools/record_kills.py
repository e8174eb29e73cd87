"""Kills a window while entries are made in the log: ./bench record-kills [how many].

No entry that was shown may be missing from the recovery copy.
"""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
DEMO = ROOT / "src" / "lumvak" / "data" / "demos" / "hand-cycle-drive.lumvak.json"
HOW_MANY, LONGEST_S = 300, 40.0


def child(file: str) -> None:
    """A window in which entries are typed as fast as they are taken; each is told once shown."""
    from lumvak.ui.application import make_application, make_window

    app = make_application()
    window = make_window(app, Path(file))
    window.show()
    window.open_stage("record")
    stage: Any = window.stages["record"]
    stage.show_view("log")
    view: Any = stage.views["log"]
    for number in range(100_000):
        view.text.setText(f"entry {number}")
        view.add.click()
        app.processEvents()
        shown = view.table.rows_model.rows[0].cells[2]
        print(f"shown {shown}", flush=True)


def main(count: int) -> int:
    """Kill so many times; 0 where nothing was lost."""
    draw, lost = random.Random(7), 0
    for turn in range(count):
        problem = _once(draw.uniform(0.0, 1.0))
        if problem:
            lost += 1
            print(f"{turn}: {problem}", flush=True)
        if turn % 25 == 24:
            print(f"{turn + 1} of {count}", flush=True)
    print(f"{count} kills, {lost} lost something")
    return int(bool(lost))


def _once(after_s: float) -> str:
    """Kill once; what was wrong, empty where nothing."""
    with tempfile.TemporaryDirectory() as home:
        file = Path(home) / "pack.lumvak.json"
        file.write_text(DEMO.read_text("utf-8"), "utf-8")
        env = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", "QT_QPA_PLATFORM": "offscreen"}
        for name in ("CONFIG", "STATE", "DATA", "CACHE"):
            env[f"XDG_{name}_HOME"] = f"{home}/{name}"
        window = subprocess.Popen(
            [sys.executable, "-P", __file__, "child", str(file)],
            stdout=subprocess.PIPE,
            text=True,
            env=env,
        )
        try:
            shown = _killed(window, after_s)
        finally:
            window.kill()
            window.wait()
        if not shown:
            return "no entry was shown"
        copies = "".join(
            path.read_text("utf-8")
            for path in (Path(home) / "STATE" / "lumvak" / "recovery").glob("*")
            if path.is_file()
        )
        missing = [text for text in shown if f'"{text}"' not in copies]
        return f"{len(missing)} of {len(shown)} lost: {missing[:3]}" if missing else ""


def _killed(window: subprocess.Popen[str], after_s: float) -> list[str]:
    """Let it show entries for a while, kill it, and say which were shown."""
    assert window.stdout is not None
    os.set_blocking(window.stdout.fileno(), False)
    shown: list[str] = []
    end, kill_at = time.monotonic() + LONGEST_S, 0.0
    while time.monotonic() < end and not (kill_at and time.monotonic() >= kill_at):
        for line in iter(window.stdout.readline, ""):
            shown.append(line.strip().removeprefix("shown "))
            kill_at = kill_at or time.monotonic() + after_s
        time.sleep(0.005)
    os.kill(window.pid, signal.SIGKILL)
    window.wait()
    shown += [line.strip().removeprefix("shown ") for line in iter(window.stdout.readline, "")]
    return shown


if __name__ == "__main__":
    if sys.argv[1:2] == ["child"]:
        child(sys.argv[2])
    else:
        sys.exit(main(int(sys.argv[1]) if sys.argv[1:] else HOW_MANY))
