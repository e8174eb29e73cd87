"""Ways to join two packs side by side: what each gives, what it loses, what it prevents."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from lumvak.core.beside.sharing import DIODE_V, IDEAL_OHM, SharedLoad
from lumvak.core.beside.side import PackSide
from lumvak.core.beside.together import Together, together
from lumvak.core.document.afterwards.beside import By
from lumvak.core.said import Text

# What each is, what it prevents and what it asks for.
# fmt: off
WAYS: tuple[tuple[By, Text, Text, Text], ...] = (
    ("direct", "directly in parallel",
     "nothing: they must be level whenever they are plugged together",
     "a read of both before each plug"),
    ("switch", "with a switch, once they are level",
     "that they are joined apart, where somebody reads first",
     "a switch for the whole current, and a voltmeter"),
    ("ideal-diodes", "with ideal diodes",
     "current from one into the other, at any time",
     "two of them, for the current of each; braking goes into neither"),
    ("diodes", "with diodes",
     "current from one into the other, at any time",
     "two of them, and a heat sink; braking goes into neither"),
    ("one-at-a-time", "one at a time",
     "everything between them",
     "a changeover switch; each carries the whole current"),
)
# fmt: on


class JoinWay(Struct, frozen=True, eq=False):
    """A way, in words and as it comes out; ``heat_w`` is the most that its diodes lose."""

    by: By
    what: Text
    prevents: Text
    wants: Text
    found: Together
    heat_w: float

    @property
    def holds(self) -> bool:
        """Whether every part carries what it would."""
        return all(it.holds for it in self.found.carried)


def ways_of(sides: Sequence[PackSide], load: SharedLoad, between_ohm: float) -> tuple[JoinWay, ...]:
    """All ways for two packs that may be in parallel."""
    return tuple(
        JoinWay(by, what, prevents, wants, found, heat_w=_heat_w(by, found))
        for by, what, prevents, wants in WAYS
        for found in (together(sides, load, by, between_ohm),)
    )


def _heat_w(by: By, found: Together) -> float:
    if found.course is None:
        return 0.0
    most = float(found.course.amps.max())
    return {"diodes": DIODE_V * most, "ideal-diodes": IDEAL_OHM * most**2}.get(by, 0.0)
