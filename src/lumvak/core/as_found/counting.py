"""How many groups a found pack has, counted three ways, and which count is likely wrong."""

from __future__ import annotations

from collections import Counter

from msgspec import Struct

from lumvak.core.as_found.span import Span
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.said import Text, phrase, say

# Groups of a pack nobody counted (ours): from a small tool to a large vehicle.
UNCOUNTED = Span(1.0, 10.0, 30.0)
# A full voltage further from a whole number of cells than this is not that of a full pack.
OFF_WHOLE = 0.04


class CountedBy(Struct, frozen=True):
    """One way to count: the field that says so, in words, and how many groups it makes."""

    field: str
    words: str
    groups: int


class SeriesCount(Struct, frozen=True):
    """How many groups there are; ``odd`` is the count that is likely wrong, with ``why``."""

    groups: Span
    ways: tuple[CountedBy, ...]
    odd: CountedBy | None = None
    why: Text = ""

    @property
    def likely(self) -> int:
        """The likely count."""
        return round(self.groups.value)


def series_count(found: AsFound, full_cell_v: float) -> SeriesCount:
    """The groups of a pack from its cells, balance leads, full voltage and groups as read.

    ``full_cell_v`` is that of one cell.
    """
    ways = _ways(found, full_cell_v)
    if not ways:
        return SeriesCount(UNCOUNTED, ())
    votes = Counter(it.groups for it in ways)
    most = max(votes.values())
    # Where no count has more votes than another the one counted by eye stands first.
    likely = next(it.groups for it in ways if votes[it.groups] == most)
    odd = next((it for it in reversed(ways) if it.groups != likely), None)
    counts = [float(it.groups) for it in ways]
    span = Span(min(counts), float(likely), max(counts))
    if odd is None:
        return SeriesCount(span, ways)
    return SeriesCount(span, ways, odd, _why(odd, likely, found, full_cell_v))


def _ways(found: AsFound, full_cell_v: float) -> tuple[CountedBy, ...]:
    """All counts, the surest first."""
    made = []
    if found.group_v:
        made.append(CountedBy("group_v", "groups as read", len(found.group_v)))
    if found.series_cells is not None:
        made.append(CountedBy("series_cells", "its cells", found.series_cells))
    if found.tap_wires is not None:
        made.append(CountedBy("tap_wires", "its balance leads", found.tap_wires - 1))
    if found.full_v is not None:
        groups = max(1, round(found.full_v / full_cell_v))
        made.append(CountedBy("full_v", "its full voltage", groups))
    return tuple(made)


def _why(odd: CountedBy, likely: int, found: AsFound, full_cell_v: float) -> Text:
    """Why a count may be wrong."""
    if odd.field == "tap_wires":
        if odd.groups == likely - 1:
            return "the lowest lead may be missing at the plug: some BMS take it from the main −"
        return "a lead for a sensor may have been counted, or one has come off"
    if odd.field == "full_v":
        volts = found.full_v or 0.0
        whole = volts / full_cell_v
        if abs(whole - round(whole)) > OFF_WHOLE * whole:
            return phrase(
                "{} is no whole number of full cells: it was not full, or is of another chemistry",
                say(volts, "V"),
            )
        return "it may not have been full when it was read, or a group is low"
    if odd.field == "series_cells":
        return "cells under a bridge or in a second row are easily missed: count along the strips"
    return "a group was left out, or read twice"
