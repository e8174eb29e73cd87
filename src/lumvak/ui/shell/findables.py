"""What the finder finds: the stages and their views, fields, figures, and the menus' commands."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from functools import partial
from typing import Any

from msgspec import Struct
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QWidget

from lumvak.core.document.edit import field_of, field_title, kind_of
from lumvak.core.fields import fields_of
from lumvak.core.record import Document
from lumvak.ui.session import Session
from lumvak.ui.shell.finder import Findable
from lumvak.ui.shell.moving import first_field
from lumvak.ui.speech import say, spell, spoken, worded
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.pages import Page

# The stage where the fields of each part of the document are set.
HOMES = {
    "need": "need", "pack": "cells", "run": "run", "arrangement": "arrangement",
    "joints": "joints", "making": "joints", "protection": "power", "leads": "power",
    "charge_leads": "power", "power": "power", "start": "power", "rest": "power",
    "charging": "charging", "hand": "hand", "balance_leads": "taps", "watch": "taps",
    "joints.weld_test": "hand", "balance_leads.fuse_a": "power", "balance_leads.area_mm2": "power",
}  # fmt: skip
# The view of that stage, by the beginning of the path, where it is not the first that has it.
VIEWS = {
    "joints.series.": "conductors", "joints.group.": "conductors", "joints.take_off": "conductors",
    "joints.": "table", "making.": "making", "protection.board": "board",
    "protection.settings": "settings", "protection.": "board", "start.": "start", "rest.": "rest",
    "power.": "parts", "leads.": "parts", "charge_leads.": "parts", "balance_leads.fuse_a": "parts",
    "balance_leads.area_mm2": "parts", "charging.groups": "groups", "charging.by": "groups",
    "charging.floor_v": "ceiling", "charging.": "charger", "hand.cells": "measure",
    "hand.placed": "groups", "hand.old.": "beside", "hand.": "measure",
    "joints.weld_test.": "welds", "balance_leads.modules": "harness",
    "balance_leads.totals": "check", "balance_leads.": "guide", "watch.": "voltages",
    "pack.ceiling_v": "ceiling", "pack.": "counts",
}  # fmt: skip

# Other words that people look for a view by.
ALSO = {
    ("cells", "beside"): "compare", ("cells", "library"): "catalogue data sheet",
    ("cells", "curves"): "discharge curve fit", ("joints", "table"): "network current solved",
    ("joints", "conductors"): "nickel strip busbar ampacity", ("joints", "making"): "cut list",
    ("power", "board"): "battery management", ("power", "settings"): "thresholds",
    ("power", "parts"): "wire gauge AWG cable", ("power", "start"): "inrush stall surge",
    ("power", "order"): "what opens first coordination time current",
    ("power", "rest"): "self-discharge drain shelf", ("charging", "time"): "charge time",
    ("charging", "ceiling"): "charge voltage life cycles", ("charging", "groups"): "balancing",
    ("charging", "resistors"): "bleed", ("hand", "groups"): "sort match bin assign",
    ("hand", "welds"): "spot weld test", ("taps", "guide"): "balance wires",
    ("taps", "harness"): "wiring plug pins",
}  # fmt: skip


class Ways(Struct, frozen=True):
    """How the window is moved about: to a stage's first field, or to its page."""

    go_to: Callable[[str], None]
    page: Callable[[str], Page]


def findables(
    session: Session, ways: Ways, actions: Sequence[tuple[str, QAction]]
) -> list[Findable]:
    """Everything that can be gone to or done in a window; ``actions`` with their names."""
    return [
        *_places(session, ways),
        *_fields(session, ways),
        *_figures(session),
        *(_command(name, action) for name, action in actions if action.isEnabled()),
    ]


def _command(name: str, action: QAction) -> Findable:
    keys = action.shortcut().toString(QKeySequence.SequenceFormat.NativeText)
    return Findable(name.replace("&", ""), "command", keys, action.trigger)


def _places(session: Session, ways: Ways) -> Iterator[Findable]:
    for stage in STAGES:
        answer = stage.answer(session.evaluation)
        yield Findable(stage.name, "stage", answer, partial(ways.go_to, stage.key))
        for view, words in stage.views:
            go = partial(_go_to_view, ways, stage.key, view)
            also = ALSO.get((stage.key, view), "")
            yield Findable(f"{stage.name}: {words}", "view", "", go, also)


def _go_to_view(ways: Ways, stage: str, view: str) -> None:
    ways.page(stage).show_view(view)
    ways.go_to(stage)


def _paths(record: Document, way: str = "") -> Iterator[tuple[str, Any]]:
    for name in fields_of(type(record)):
        value = getattr(record, name)
        if isinstance(value, Document):
            yield from _paths(value, f"{way}{name}.")
        elif not isinstance(value, tuple):
            yield way + name, value


def _fields(session: Session, ways: Ways) -> Iterator[Findable]:
    for path, value in _paths(session.project):
        if home := home_of(path):
            field = field_of(path)
            now = str(value)[:24]
            if not isinstance(value, str | bool):
                now = "" if value is None else spell(value, kind_of(path))
            go = partial(go_to_field, session, ways, home, path)
            yield Findable(field.title, "field", now, go, field.also)


def home_of(path: str) -> str:
    """Key of the stage where a field is set; empty where there is none."""
    parts = path.split(".")
    known = (".".join(parts[:length]) for length in range(len(parts), 0, -1))
    return next((HOMES[part] for part in known if part in HOMES), "")


def _views(stage: str, path: str) -> list[str]:
    """The views of a stage, first the one where a field is set."""
    views = [view for view, _ in next(item.views for item in STAGES if item.key == stage)]
    first = max((known for known in VIEWS if path.startswith(known)), key=len, default="")
    likely = VIEWS.get(first, "")
    return [likely, *(view for view in views if view != likely)] if likely in views else views


def open_place(ways: Ways, place: str) -> None:
    """Open a stage, and a view of it: “record/conversion”."""
    stage, _, view = place.partition("/")
    page = ways.page(stage)
    if view:
        page.show_view(view)


def go_to_field(session: Session, ways: Ways, stage: str, path: str) -> bool:
    """Turn to the view of a field and give it the focus; whether it stands in any view.

    A field of the pack may stand in the need as well as with the cells.
    """
    for key in dict.fromkeys((stage, home_of(path), "need")):
        page = ways.page(key)
        for view in _views(key, path) or [""]:
            if view:
                page.show_view(view)
            page.show_path(path)
            for field in page.findChildren(QWidget, path):
                if field.isVisible():
                    (first_field(field) or field).setFocus(Qt.FocusReason.ShortcutFocusReason)
                    return True
    ways.go_to(stage)
    session.tell("note", worded("“{}” is not asked for as things stand.", field_title(path)))
    return False


def _figures(session: Session) -> Iterator[Findable]:
    for key, figure in session.evaluation.figures.items():
        now = say(figure.value, figure.unit)
        yield Findable(spoken(figure.label), "figure", now, partial(session.explain, key))
