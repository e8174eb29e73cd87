"""What charges and years have taken of a pack, and what it may still hold."""

from __future__ import annotations

import math

from msgspec import Struct

from lumvak.core.as_found.span import Span, about, exactly, in_both
from lumvak.core.document.afterwards.as_found import AsFound, Stored

# Cells of a family lose a fifth over so many charges where no sheet says (ours, on the side of
# care), and over a year's root this share by how they stood (ours; the warm end of what is told).
CHARGES = {"cobalt": 500.0, "phosphate": 2000.0, "titanate": 8000.0, "sodium": 2000.0}
A_LIFE = 0.2
YEARS: dict[Stored | None, Span] = {
    "empty": Span(0.015, 0.025, 0.04),
    "half": Span(0.015, 0.03, 0.045),
    "full": Span(0.035, 0.055, 0.08),
    None: Span(0.015, 0.04, 0.08),
}
# Of a pack of which nobody knows: years, and charges as shares of a life.
UNKNOWN_YEARS = Span(0.0, 4.0, 15.0)
UNKNOWN_LIVES = Span(0.0, 0.5, 1.8)
# So far either way the charges of a life lie, by a sheet, by a family, and where not even that is
# known; and no cell is said to have lost more than this.
LIVES_OFF, FAMILY_OFF, UNKNOWN_OFF = (
    Span(0.55, 1.0, 1.6), Span(0.4, 1.0, 2.5), Span(0.02, 1.0, 2.5),
)  # fmt: skip
MOST_LOST = 0.65
# Groups that nobody read may stand so far apart that this share cannot be drawn.
UNREAD = Span(0.7, 0.97, 1.0)
# A measured charge is known to this, a label's is told with this much too much.
MEASURED_OFF = 0.03
LABELLED = Span(0.5, 0.9, 1.05)
# How much a cell's resistance grows for each share of its charge that is lost (ours).
GROWTH = Span(1.5, 2.5, 4.0)


class Worn(Struct, frozen=True):
    """What a pack has lost of its charge, what it holds, in Ah, and how that came about."""

    lost: Span
    capacity_ah: Span
    by: str


def lost_of(found: AsFound, family: str | None, cycles_of_sheet: float | None) -> Span:
    """The share of its charge that a pack has lost: by charges in line, by years as their root.

    ``family`` is ``None`` where nobody knows it, ``cycles_of_sheet`` where no sheet says.
    """
    life = cycles_of_sheet or CHARGES[family or "cobalt"]
    off = LIVES_OFF if cycles_of_sheet else UNKNOWN_OFF if family is None else FAMILY_OFF
    lives = UNKNOWN_LIVES if found.cycles is None else exactly(found.cycles / life)
    years = UNKNOWN_YEARS if found.years is None else exactly(found.years)
    rate = YEARS[found.stored]
    lost = [
        A_LIFE * getattr(off, end) * getattr(lives, end)
        + getattr(rate, end) * math.sqrt(getattr(years, end))
        for end in ("low", "value", "high")
    ]
    return Span(*(min(it, MOST_LOST) for it in lost))


def worn(
    found: AsFound, new_ah: Span, lost: Span, spread: float | None, promised: bool = True
) -> Worn:
    """What a pack holds; ``new_ah`` when it was new, ``spread`` how far its groups stand apart.

    ``promised`` counts what it was sold with among what is known of it when it was new.
    """
    if found.measured_ah is not None:
        return Worn(lost, about(found.measured_ah, MEASURED_OFF), "measured")
    if promised and found.promised_ah is not None:
        new_ah = in_both(new_ah, LABELLED.scaled(found.promised_ah))
    kept = Span(1.0 - lost.high, 1.0 - lost.value, 1.0 - lost.low)
    drawn = UNREAD if spread is None else exactly(max(1.0 - spread, UNREAD.low))
    return Worn(lost, new_ah.scaled(kept).scaled(drawn), "age")


def carries_still(lost: Span) -> Span:
    """What a worn cell carries over what it carried new, for the same heat: 1 ÷ √resistance."""
    return Span(
        *(
            1.0 / math.sqrt(1.0 + grown * share)
            for grown, share in (
                (GROWTH.high, lost.high),
                (GROWTH.value, lost.value),
                (GROWTH.low, lost.low),
            )
        )
    )
