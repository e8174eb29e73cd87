"""Cells that were measured, by their place in the pack."""

from typing import Annotated

from lumvak.core.record import Document, about


class MeasuredCell(Document, frozen=True):
    """A cell that was measured, by its place in the pack."""

    cell: Annotated[
        str,
        about(
            "Place",
            like="a place such as g3c2, the second cell of group 3",
            pattern=r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}$",
            tip="Such as g3c2: group 3, cell 2",
        ),
    ]
    mohm: (
        Annotated[float, about("Resistance", "mΩ", gt=0, le=1e5, tip="As measured in its place")]
        | None
    ) = None
    volts: Annotated[float, about("OCV", "V", gt=0, le=6, tip="At rest")] | None = None
    ah: Annotated[float, about("Capacity", "Ah", gt=0, le=1e4, tip="As measured")] | None = None
