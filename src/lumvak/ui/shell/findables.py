"""What the finder finds: the stages and their views, fields, figures, and the menus' commands."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import partial
from typing import TYPE_CHECKING, Any

from pydantic import BaseModel
from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QWidget

from lumvak.core.document.edit import field_title
from lumvak.core.units import say
from lumvak.ui.shell.finder import Findable
from lumvak.ui.shell.moving import first_field
from lumvak.ui.stages.order import STAGES

if TYPE_CHECKING:
    from lumvak.ui.shell.window import Window

# The stage where the fields of each part of the document are set, and what is no field of any.
HOMES = {
    "need": "need", "pack": "cells", "run": "run", "arrangement": "arrangement",
    "joints": "joints", "making": "joints", "protection": "power", "leads": "power",
    "charge_leads": "power", "power": "power",
}  # fmt: skip


def findables(window: Window, actions: Sequence[QAction]) -> list[Findable]:
    """Everything that can be gone to or done in a window."""
    return [
        *_places(window),
        *_fields(window),
        *_figures(window),
        *(
            Findable(
                action.text().replace("&", ""),
                "command",
                action.shortcut().toString(QKeySequence.SequenceFormat.NativeText),
                action.trigger,
            )
            for action in actions
            if action.isEnabled()
        ),
    ]


def _places(window: Window) -> Iterator[Findable]:
    seen = window.session.evaluation
    for stage in STAGES:
        yield Findable(stage.name, "stage", stage.answer(seen), partial(window.go_to, stage.key))
        for view, words in stage.views:
            go = partial(_go_to_view, window, stage.key, view)
            yield Findable(f"{stage.name}: {words}", "view", "", go)


def _go_to_view(window: Window, stage: str, view: str) -> None:
    window.open_stage(stage)
    window.stages[stage].show_view(view)
    window.go_to(stage)


def _paths(record: BaseModel, way: str = "") -> Iterator[tuple[str, Any]]:
    for name in type(record).model_fields:
        value = getattr(record, name)
        if isinstance(value, BaseModel):
            yield from _paths(value, f"{way}{name}.")
        elif not isinstance(value, tuple):
            yield way + name, value


def _fields(window: Window) -> Iterator[Findable]:
    for path, value in _paths(window.session.project):
        home = HOMES.get(path.partition(".")[0])
        if home is not None:
            now = "" if value is None else str(value)[:24]
            go = partial(go_to_field, window, home, path)
            yield Findable(field_title(path), "field", now, go)


def go_to_field(window: Window, stage: str, path: str) -> bool:
    """Turn to the view of a field and give it the focus; whether it stands in any view.

    A field of the pack may stand in the need as well as with the cells.
    """
    for key in dict.fromkeys((stage, "need")):
        window.open_stage(key)
        page = window.stages[key]
        for view in next(item.views for item in STAGES if item.key == key) or (("", ""),):
            if view[0]:
                page.show_view(view[0])
            field = page.findChild(QWidget, path)
            if field is not None and field.isVisible():
                wanted = first_field(field) or field
                wanted.setFocus()
                return True
    window.go_to(stage)
    window.session.tell("note", f"“{field_title(path)}” is not asked for as things stand.")
    return False


def _figures(window: Window) -> Iterator[Findable]:
    for key, figure in window.session.evaluation.figures.items():
        yield Findable(
            figure.label, "figure", say(figure.value, figure.unit),
            partial(window.session.explain, key),
        )  # fmt: skip
