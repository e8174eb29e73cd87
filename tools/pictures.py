"""Takes the pictures of docs/screenshots anew from the demo projects: python tools/pictures.py."""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QCoreApplication

ROOT = Path(__file__).parents[1]
OUT = ROOT / "docs" / "screenshots"
LONGEST_S = 20.0


def overlaid(session: Any, stage: Any) -> None:
    packs = ({"cell": "ostrel-21-40p", "series": 14, "parallel": 9},)
    session.edit({"pack.beside": packs})
    stage.tolerance.turn(True)
    end = time.monotonic() + LONGEST_S
    while stage.tolerance.labels[0].said in ("", "—") and time.monotonic() < end:
        QCoreApplication.processEvents()


def practised(_: Any, stage: Any) -> None:
    """A pack with a worn connector, answered."""
    from lumvak.bench.practise.trail import READ, Act
    from lumvak.bench.simulated.faults import Hidden
    from lumvak.ui.laid_over.practise_page import PractisePage

    window = stage.window()
    next(act for name, act in window.menus.actions if "actise" in name).trigger()
    page = window.findChild(PractisePage)
    page.levels.picked.emit(7)
    page.begin.click()
    practising = page.practising
    reads = [Act(READ, f"group:{group}") for group in range(1, practising.series + 1)]
    under = [Act(READ, place) for place in ("terminals", "fuse", "connector")]
    for act in (Act(READ, "pack"), *reads, Act("wake"), Act("load"), *under):
        practising.do(act)
    practising.give([Hidden("worn-connector")])
    end = time.monotonic() + LONGEST_S
    while practising.told is None and time.monotonic() < end:
        QCoreApplication.processEvents()


def take_off(session: Any, stage: Any) -> None:
    stage.on_table.show_lower("places")


def order(session: Any, stage: Any) -> None:
    stage.show_view("making")
    stage.making.show_page("order")
    stage.making.order.steps.picked.emit(3)


def simulated(stage: Any, view: str) -> None:
    """A view of charging, once what it simulates is there."""
    stage.show_view(view)
    end = time.monotonic() + LONGEST_S
    while stage.views[view].simulated.busy and time.monotonic() < end:
        QCoreApplication.processEvents()


def full(session: Any, stage: Any) -> None:
    simulated(stage, "time")


def second(session: Any, stage: Any) -> None:
    """A smaller second pack, a little lower."""
    session.edit({"beside.capacity_ah": 12.0, "beside.ohm": 0.11, "beside.at": 0.93})


def dealt(session: Any, stage: Any) -> None:
    """The groups of the demo's lot, taken."""
    stage.show_view("groups")
    view = stage.views["groups"]
    view.deal()
    end = time.monotonic() + LONGEST_S
    while view.found is None and time.monotonic() < end:
        QCoreApplication.processEvents()
    view.take()


def proven(_: Any, stage: Any) -> None:
    """The drops, of which one is outside, once results are there."""
    prover = stage.prover
    end = time.monotonic() + LONGEST_S
    while (prover.results is None or prover.busy) and time.monotonic() < end:
        QCoreApplication.processEvents()
    stage.views["tests"].table.picked.emit("drops")


Shot = tuple[str, str, str, bool, Callable[[Any, Any], object] | None]
SHOTS: tuple[Shot, ...] = (
    ("need", "orchard-barrow", "need", False, None),
    ("cells", "orchard-barrow", "cells", False, None),
    ("chart", "orchard-barrow", "cells", False, lambda _, stage: stage.show_view("chart")),
    ("run", "orchard-barrow", "run", False, overlaid),
    (
        "arrangement",
        "market-trike",
        "arrangement",
        False,
        lambda _, stage: stage.list.picked.emit("parts"),
    ),
    ("as-found", "hay-tedder", "as_found", False, lambda _, stage: stage.show_view("audit")),
    ("table", "hand-cycle-drive", "joints", False, take_off),
    ("charging", "orchard-barrow", "charging", False, full),
    ("hand", "seed-bed-roller", "hand", False, dealt),
    ("taps", "kayak-thruster", "taps", False, lambda _, stage: stage.show_view("check")),
    ("prove", "hand-cycle-drive", "prove", False, proven),
    ("making", "hand-cycle-drive", "joints", False, order),
    ("power", "orchard-barrow", "power", False, None),
    ("shop", "orchard-barrow", "power", False, lambda _, stage: stage.show_view("shop")),
    ("record", "hedge-trimmer", "record", False, None),
    ("rating", "hand-cycle-drive", "power", True, lambda _, stage: stage.show_view("rating")),
    ("trouble", "mill-race-dinghy", "trouble", False, lambda _, stage: stage.show_view("find")),
    ("beside", "market-trike", "beside", False, second),
    # Last, for it lies over the window.
    ("practise", "hand-cycle-drive", "record", False, practised),
)


def main() -> int:
    home = tempfile.mkdtemp()
    for name in ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME"):
        os.environ[name] = home
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from lumvak.ui.application import make_application, make_window

    app = make_application()
    wanted = sys.argv[1:]
    for name, demo, stage, dark, do in SHOTS:
        if wanted and name not in wanted:
            continue
        path = ROOT / "src" / "lumvak" / "data" / "demos" / f"{demo}.lumvak.json"
        window = make_window(app, path)
        window.resize(1280, 800)
        window.show()
        if dark:
            window.swap_sheet()
        window.open_stage(stage)
        app.processEvents()
        if do is not None:
            do(window.session, window.stages[stage])
        for _ in range(6):
            app.processEvents()
        window.grab().save(str(OUT / f"{name}.png"))
        print(name)
        if dark:
            window.swap_sheet()
        window.session.undo_stack.setClean()
        window.close()
        window.deleteLater()
        app.processEvents()
    return 0


if __name__ == "__main__":
    os._exit(main())
