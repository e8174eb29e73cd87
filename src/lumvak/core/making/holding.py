"""Whether the holder takes these cells, these rows and these strips (methods 40)."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lumvak.core.catalogue.holders import Holder
from lumvak.core.figures.finding import Finding, Severity
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.making.weight import Around
from lumvak.core.units import say

# A cell so much thinner than its place is loose in it.
LOOSE_MM = 0.8


def holder_findings(table: JoinedPack, around: Around) -> Iterator[Finding]:
    """What of the holder in force does not go with the pack."""
    holder, cell = around.holder, table.layout.cell
    if holder is None:
        return
    if cell.diameter_mm is None:
        yield _found("holder-round", "stop", f"{holder.name} holds round cells; these are flat",
                     "Flat cells are pressed between plates, or stand in a frame of their own.",
                     "Take the holder out.")  # fmt: skip
        return
    thick, place = say(cell.diameter_mm, "mm"), say(holder.diameter_mm, "mm")
    if cell.diameter_mm > holder.diameter_mm:
        yield _found("holder-small", "stop",
                     f"A cell of {thick} does not go into {holder.name}, which takes {place}",
                     "Pressed in, its wrapper tears at the edge.",
                     "Take a holder for this cell.")  # fmt: skip
    elif cell.diameter_mm < holder.diameter_mm - LOOSE_MM:
        yield _found("holder-loose", "warn",
                     f"A cell of {thick} is loose in {holder.name}, which takes {place}",
                     "It shakes, and its joints carry the shaking.",
                     "Take a holder for this cell.")  # fmt: skip
    if holder.rows != around.arrangement.rows:
        yield _found("holder-rows", "warn",
                     f"{holder.name} is made for {holder.rows} rows; the cells lie "
                     f"{around.arrangement.rows}",
                     "Its places lie otherwise than the cells are drawn.",
                     f"Lay {holder.rows} rows, or take another holder.")  # fmt: skip
    yield from _over_ribs(table, holder)


def _over_ribs(table: JoinedPack, holder: Holder) -> Iterator[Finding]:
    """Pieces that are too wide to lie flat on the ends, between the ribs."""
    if holder.channel_mm is None or not holder.rib_mm:
        return
    pieces, sections = table.pieces, table.sections
    rib, channel = say(holder.rib_mm, "mm"), say(holder.channel_mm, "mm")
    if pieces.meshed.any():
        yield _found("holder-ribs", "warn",
                     f"A sheet lies on the ribs of {holder.name}, {rib} over the ends",
                     "It is bent down to each cell, or no joint reaches it.",
                     "Take strips, or a holder without ribs.")  # fmt: skip
    flat = ~sections.wire & ~pieces.meshed
    width = float(np.max((sections.width_mm * sections.strips)[flat], initial=0.0))
    if width > holder.channel_mm:
        yield _found("holder-ribs", "warn",
                     f"A piece {say(width, 'mm')} wide lies on the ribs of {holder.name}: "
                     f"{channel} are free between them",
                     f"It stands {rib} over the ends, or is bent down to each cell.",
                     f"Take pieces up to {channel}, more layers, or a holder without "
                     "ribs.")  # fmt: skip


def _found(code: str, severity: Severity, text: str, why: str, do: str) -> Finding:
    return Finding(code, severity, text, why, do, "arrangement", "layout.length_mm")
