"""Fast and sensible hands over the demos: ./bench hands [how many [actions]]."""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from PyQt6.QtCore import QCoreApplication, QEvent
from tests.hands import Astray, Hands

import lumvak
from lumvak.ui.application import make_application, make_window

DEMOS = sorted((Path(lumvak.__file__).parent / "data" / "demos").glob("*.json"))
HANDS, ACTIONS = 2000, 40
HOMES = ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME")


def main() -> int:
    many = int(sys.argv[1]) if len(sys.argv) > 1 else HANDS
    actions = int(sys.argv[2]) if len(sys.argv) > 2 else ACTIONS
    app, begun, failed = make_application(), time.perf_counter(), 0
    for seed in range(many):
        with tempfile.TemporaryDirectory() as name:
            os.environ.update(dict.fromkeys(HOMES, name))
            file = Path(name) / "demo.lumvak.json"
            file.write_text(DEMOS[seed % len(DEMOS)].read_text("utf-8"), "utf-8")
            window = make_window(app, file)
            window.show()
            app.processEvents()
            try:
                Hands(window, seed).work(actions)
            except Astray as astray:
                failed += 1
                print(f"hand {seed}: {astray}", flush=True)
            if (focus := app.focusWidget()) is not None:
                focus.clearFocus()
            window.session.refused.clear()
            window.session.undo_stack.setClean()
            window.close()
            window.deleteLater()
            QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    took = time.perf_counter() - begun
    print(f"{many} hands of {actions} actions, {failed} astray, {took:.0f} s")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
