"""Cells that were measured, by their place in the pack."""

from __future__ import annotations

from pydantic import Field

from lumvak.core.record import Document


class MeasuredCell(Document):
    """A cell that was measured, by its place in the pack."""

    cell: str = Field(
        title="Place",
        pattern=r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}$",
        json_schema_extra={"like": "a place such as g3c2, the second cell of group 3"},
    )
    mohm: float | None = Field(default=None, gt=0, le=1e5)
    volts: float | None = Field(default=None, gt=0, le=6)
    ah: float | None = Field(default=None, gt=0, le=1e4)
