"""What there is to notice about the room, the places of the cells and what lies between them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import groupby

from lumvak.core.arrangement.layout import Barriers
from lumvak.core.arrangement.outline import Flaw
from lumvak.core.arrangement.proposals import Placing
from lumvak.core.document.arrangement import Arrangement
from lumvak.core.figures.finding import TOUCH_SAFE_V, Finding, Severity
from lumvak.core.said import Text, listed, phrase, say

MOST_TOLD = 3
BARRIERS = ("one sheet of 0.2 mm insulating paper", "a stiff sheet of 0.5 mm or more")
# How thick those are, in mm.
BARRIER_MM = (0.2, 0.5)


def barrier_for(volts: float) -> str:
    """The barrier that two cans side by side need (methods 18)."""
    return BARRIERS[bool(volts > TOUCH_SAFE_V)]


def _does_not_fit(placing: Placing, enough: Text) -> Finding:
    return Finding(
        "does-not-fit",
        "stop",
        text=phrase(
            "{}S{}P does not fit: {}", placing.layout.series, placing.layout.parallel, enough
        ),
        why="The cells are drawn beside the room as they would lie without it.",
        do="Make room, nest the rows, take another direction or fewer cells.",
        stage="arrangement",
        figure="layout.length_mm",
    )


def arrangement_findings(
    placing: Placing,
    barriers: Barriers,
    arrangement: Arrangement,
    gap_mm: float,
    whole: bool = True,
) -> Iterator[Finding]:
    """The room, the places of the cells and the barriers between them.

    What room would be enough is worked out only where the ``whole`` of it is told. It is long, for
    each finding is a few sentences.
    """
    if placing.lacks_room:
        yield _does_not_fit(placing, placing.short if whole else "")
    yield from flaw_findings(placing.flaws, "arrangement")
    if arrangement.way is not None and placing.chosen is not None and not placing.by_hand:
        known = {item.key for item in placing.proposals}
        if known and arrangement.way not in known:
            yield Finding(
                "way-gone",
                "note",
                "The proposal that was picked no longer exists",
                "Count, cell or room have changed since.",
                phrase("The best one is shown: {}.", placing.chosen.name),
                "arrangement",
            )
    if len(barriers.pairs):
        worst = float(barriers.volts.max())
        yield Finding(
            "barriers",
            "warn" if worst > TOUCH_SAFE_V else "note",
            text=phrase(
                "{} pairs of cans side by side differ by more than {}, the worst by {}",
                len(barriers.pairs),
                say(arrangement.barrier_v, "V", "arrangement.barrier_v"),
                say(worst, "V"),
            ),
            why="Only two thin wrappers lie between them, and a wrapper is not insulation.",
            do=phrase("Set {} between them, where the drawing shows it.", barrier_for(worst)),
            stage="arrangement",
            figure="layout.neighbour_v",
        )
        thick, room = BARRIER_MM[bool(worst > TOUCH_SAFE_V)], placing.layout.gap_mm
        if room < thick - 1e-9:
            yield Finding(
                "barrier-tight",
                "warn",
                text=phrase(
                    "A barrier of {} does not go between cans {} apart",
                    say(thick, "mm"),
                    say(room, "mm"),
                ),
                why="Pressed in it is cut, or the pack grows wider than it was drawn.",
                do="Set a larger gap, or lay the groups so that no barrier is wanted.",
                stage="arrangement",
                figure="layout.neighbour_v",
            )
    if arrangement.pitch_mm is None and gap_mm < 0.5:
        yield Finding(
            "no-gap",
            "note",
            "The cells lie wrapper on wrapper",
            "A worn wrapper then joins two cans, and no air passes.",
            "Use holders that leave a gap, or lay barriers between the groups.",
            "arrangement",
        )


def flaw_findings(
    flaws: Iterable[Flaw], stage: str, severity: Severity = "stop"
) -> Iterator[Finding]:
    """Each kind of flaw as one finding: the first few by name, the rest by number."""
    for code, found in groupby(
        sorted(flaws, key=lambda flaw: flaw.code), key=lambda flaw: flaw.code
    ):
        items = list(found)
        named = listed((flaw.text for flaw in items[1:MOST_TOLD]), "; ")
        more = len(items) - MOST_TOLD
        why: Text = "It is marked on the drawing."
        if named and more > 0:
            why = phrase("Also: {}, and {} more.", named, more)
        elif named:
            why = phrase("Also: {}.", named)
        yield Finding(
            code,
            severity,
            items[0].text,
            why,
            items[0].do,
            stage,
            cure=items[0].cure,
        )
