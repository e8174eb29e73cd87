"""Every piece of strip, sheet, bar and wire of a pack, between the terminals that it joins.

Level ``k`` is the potential between group ``k`` and group ``k + 1``: level 0 is the pack's
negative, level ``series`` its positive. A terminal of group ``g`` (from 0) lies on level ``g + 1``
with its positive end and on level ``g`` with its negative one.
"""

from __future__ import annotations

import re
from functools import cached_property

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.connected import components
from lumvak.core.arrangement.layout import FACE_NAMES, Layout
from lumvak.core.said import Text, phrase

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
GROUP, SERIES, WIRE, TIE, ADDED, FOLD = range(6)
KIND_NAMES = ("group strip", "series strip", "wire", "tie", "added piece", "folded strip")
TERMINAL = re.compile(r"g(\d+)c(\d+)([pn])")


class Pieces(Struct, frozen=True, eq=False, dict=True):
    """Pieces as arrays of length M: both terminals, what each is, where, how long, how many.

    ``strips`` is how many conductors lie side by side in the piece, in shares of one where a
    joint has fewer; ``layers`` is 0 where the piece takes those of its kind.
    """

    layout: Layout
    a: Index
    b: Index
    kind: Index
    face: Index
    length_mm: Array
    strips: Array
    layers: Index
    meshed: Mask

    def __len__(self) -> int:
        """How many pieces there are."""
        return len(self.a)

    @cached_property
    def level(self) -> Index:
        """Level of the terminal that each piece begins at, (M,)."""
        return self.layout.level[self.a]

    @cached_property
    def whole(self) -> bool:
        """Whether pieces and cells all hang together."""
        cells = 2 * np.arange(len(self.layout))
        one, two = np.concatenate([self.a, cells]), np.concatenate([self.b, cells + 1])
        return not components(2 * len(self.layout), one, two).any()

    def name(self, piece: int) -> Text:
        """``series strip g2c1 to g3c1, side A``."""
        one, other = (
            terminal_name(self.layout, self.a[piece]),
            terminal_name(self.layout, self.b[piece]),
        )
        kind = KIND_NAMES[self.kind[piece]]
        return phrase("{} {} to {}, {}", kind, one[:-1], other[:-1], FACE_NAMES[self.face[piece]])

    def middle_mm(self, piece: int) -> tuple[float, float]:
        """Place in mm of the middle of a piece on the drawing."""
        places = self.layout.terminal_mm[[self.a[piece], self.b[piece]], :2].mean(axis=0)
        return float(places[0]), float(places[1])


def terminal_name(layout: Layout, terminal: int) -> str:
    """``g3c2p``: the positive end of the second cell of group 3."""
    return layout.name[terminal // 2] + ("p", "n")[terminal % 2]


def terminal_number(layout: Layout, name: str) -> int | None:
    """The terminal of a name; ``None`` where the pack has no such cell."""
    found = TERMINAL.fullmatch(name)
    if found is None:
        return None
    group, member = int(found[1]) - 1, int(found[2]) - 1
    if not (0 <= group < layout.series and 0 <= member < layout.parallel):
        return None
    return 2 * (group * layout.parallel + member) + (found[3] == "n")
