"""Whether the holder takes these cells, these rows and these strips (methods 40)."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lumvak.core.catalogue.holders import Holder
from lumvak.core.figures.finding import Finding, Severity
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.making.weight import Around
from lumvak.core.said import Text, phrase, say

# A cell so much thinner than its place is loose in it.
LOOSE_MM = 0.8


def holder_findings(joined_pack: JoinedPack, around: Around) -> Iterator[Finding]:
    """What of the holder in force does not go with the pack."""
    holder, cell = around.holder, joined_pack.layout.cell
    if holder is None:
        return
    if cell.diameter_mm is None:
        yield _found(
            "holder-round",
            "stop",
            phrase("{} holds round cells; these are flat", holder.name),
            "Flat cells are pressed between plates, or stand in a frame of their own.",
            "Take the holder out.",
        )
        return
    thick, place = say(cell.diameter_mm, "mm"), say(holder.diameter_mm, "mm")
    if cell.diameter_mm > holder.diameter_mm:
        yield _found(
            "holder-small",
            "stop",
            phrase("A cell of {} does not go into {}, which takes {}", thick, holder.name, place),
            "Pressed in, its wrapper tears at the edge.",
            "Take a holder for this cell.",
        )
    elif cell.diameter_mm < holder.diameter_mm - LOOSE_MM:
        yield _found(
            "holder-loose",
            "warn",
            phrase("A cell of {} is loose in {}, which takes {}", thick, holder.name, place),
            "It shakes, and its joints carry the shaking.",
            "Take a holder for this cell.",
        )
    if holder.rows != around.arrangement.rows:
        yield _found(
            "holder-rows",
            "warn",
            phrase(
                "{} is made for {} rows; the cells lie {}",
                holder.name,
                holder.rows,
                around.arrangement.rows,
            ),
            "Its places lie otherwise than the cells are drawn.",
            phrase("Lay {} rows, or take another holder.", holder.rows),
        )
    yield from _over_ribs(joined_pack, holder)


def _over_ribs(joined_pack: JoinedPack, holder: Holder) -> Iterator[Finding]:
    """Pieces that are too wide to lie flat on the ends, between the ribs."""
    if holder.channel_mm is None or not holder.rib_mm:
        return
    pieces, sections = joined_pack.pieces, joined_pack.sections
    rib, channel = say(holder.rib_mm, "mm"), say(holder.channel_mm, "mm")
    if pieces.meshed.any():
        yield _found(
            "holder-ribs",
            "warn",
            phrase("A sheet lies on the ribs of {}, {} over the ends", holder.name, rib),
            "It is bent down to each cell, or no joint reaches it.",
            "Take strips, or a holder without ribs.",
        )
    flat = ~sections.wire & ~pieces.meshed
    width = float(np.max((sections.width_mm * sections.strips)[flat], initial=0.0))
    if width > holder.channel_mm:
        yield _found(
            "holder-ribs",
            "warn",
            phrase(
                "A piece {} wide lies on the ribs of {}: {} are free between them",
                say(width, "mm"),
                holder.name,
                channel,
            ),
            phrase("It stands {} over the ends, or is bent down to each cell.", rib),
            phrase("Take pieces up to {}, more layers, or a holder without ribs.", channel),
        )


def _found(code: str, severity: Severity, text: Text, why: Text, do: Text) -> Finding:
    return Finding(
        code, severity, text=text, why=why, do=do, stage="arrangement", figure="layout.length_mm"
    )
