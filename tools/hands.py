"""Fast and sensible hands over the demos: ./bench hands [how many [actions]]."""

from __future__ import annotations

import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.demo_windows import demo_window
from tests.hands import Astray, Hands

from lumvak.ui.application import make_application

HANDS, ACTIONS = 2000, 40


def main() -> int:
    many = int(sys.argv[1]) if len(sys.argv) > 1 else HANDS
    actions = int(sys.argv[2]) if len(sys.argv) > 2 else ACTIONS
    app, begun, failed = make_application(), time.perf_counter(), 0
    for seed in range(many):
        with demo_window(app, seed) as window:
            try:
                Hands(window, seed).work(actions)
            except Astray as astray:
                failed += 1
                print(f"hand {seed}: {astray}", flush=True)
    took = time.perf_counter() - begun
    print(f"{many} hands of {actions} actions, {failed} astray, {took:.0f} s")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
