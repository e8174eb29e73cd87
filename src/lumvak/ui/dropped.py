"""Files that are no project: each goes where it belongs, once that was asked."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec import Struct

if TYPE_CHECKING:
    from lumvak.files.contents import Content


class Belongs(Struct, frozen=True):
    """Where a file of some content goes: the stage and view that take it, and its name."""

    stage: str
    view: str
    words: str


PLACES: dict[Content, Belongs] = {
    "parts": Belongs("cells", "library", "cells of my own"),
    "cells": Belongs("cells", "library", "cells of my own"),
    "outline": Belongs("arrangement", "", "the outline of the room"),
    "readings": Belongs("hand", "measure", "readings of cells in hand"),
    "tester": Belongs("hand", "measure", "a tester's log of one cell"),
    "charge": Belongs("charging", "log", "the log of a charge"),
    "voltages": Belongs("taps", "voltages", "group voltages over time"),
    "duty": Belongs("need", "", "the duty of the load"),
}
ACCEPTED = (
    "a project, a table of cells or readings, a log of a charge, of group voltages or of a load, a "
    "drawing as DXF or SVG"
)
