"""What stands on a label, in lines: the pack's, and that of its charger."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.figures.finding import TOUCH_SAFE_V
from lumvak.core.said import Text, listed, phrase, say

# Nobody is taken to know of lithium who finds the pack.
CAUTIONS = (
    "Lithium cells: do not open, crush, wet or burn; never charge unwatched. Swollen or hot: away "
    "from people. Transport and disposal by local rules.",
)


class LabelLine(Struct, frozen=True):
    """A line: its text, and how large it stands over what is smallest."""

    text: Text
    size: float = 1.0


class LabelFacts(Struct, frozen=True):
    """A label: its title, what it says in lines, cautions below, and the passport in its code."""

    title: Text
    lines: tuple[LabelLine, ...]
    cautions: tuple[Text, ...]
    passport: Passport | None


def label_of(passport: Passport) -> LabelFacts:
    """The label of a pack."""
    return LabelFacts(
        passport.name,
        tuple(LabelLine(text, size) for text, size in _lines(passport)),
        tuple(_cautions(passport)),
        passport,
    )


def _lines(passport: Passport) -> Iterator[tuple[Text, float]]:
    cells = passport.series * passport.parallel
    counts = passport.series, passport.parallel, cells, passport.chemistry
    if passport.modified:
        yield "MODIFIED: not as its maker sold it", 1.2
    yield phrase("{} in series, {} in parallel: {} cells, {}", *counts), 1.0
    capacity = say(passport.capacity_ah, "Ah"), passport.capacity_is
    volts = say(passport.full_v, "V"), say(passport.empty_v, "V")
    yield phrase("{} {}; full {}, empty {}", *capacity, *volts), 1.2
    if (amps := _amps(passport)) is not None:
        yield amps, 1.2
    if passport.charge_v is not None and passport.charge_a is not None:
        charge = say(passport.charge_v, "V"), say(passport.charge_a, "A")
        yield phrase("charge to {}, at most {}", *charge), 1.2
    standing = phrase("rating {}", passport.standing)
    if passport.tail_a is not None:
        standing = phrase("full under {}; {}", say(passport.tail_a, "A"), standing)
    yield standing, 1.0
    if degrees := [*_used_at(passport), *_charged_at(passport)]:
        yield listed(degrees), 1.0
    if parts := [*_parts(passport)]:
        yield listed(parts), 1.0
    if days := [*_days(passport)]:
        yield listed(days), 1.0


def gauge_said(passport: Passport) -> Text:
    """What a fuel gauge or a shunt meter wants set."""
    ah, empty = say(passport.capacity_ah, "Ah"), say(passport.empty_v, "V")
    if passport.charge_v is None or passport.tail_a is None:
        return phrase("fuel gauge: {}, empty at {}", ah, empty)
    full = say(passport.charge_v, "V"), say(passport.tail_a, "A")
    return phrase("fuel gauge: {}, full at {} and under {}, empty at {}", ah, *full, empty)


def _amps(passport: Passport) -> Text | None:
    if passport.continuous_a is None:
        return None
    lasting = say(passport.continuous_a, "A")
    if passport.peak_a is None or passport.peak_s is None:
        return phrase("{} continuous", lasting)
    peak = say(passport.peak_a, "A"), say(passport.peak_s, "s")
    return phrase("{} continuous, {} for {}", lasting, *peak)


def _used_at(passport: Passport) -> Iterator[Text]:
    low, high = passport.discharge_min_c, passport.discharge_max_c
    if low is not None and high is not None:
        yield phrase("use at {} to {}", say(low, "°C"), say(high, "°C"))


def _charged_at(passport: Passport) -> Iterator[Text]:
    low, high = passport.charge_min_c, passport.charge_max_c
    if low is not None and high is not None:
        yield phrase("charge at {} to {}", say(low, "°C"), say(high, "°C"))


def _parts(passport: Passport) -> Iterator[Text]:
    if passport.bms:
        yield phrase("BMS {}", passport.bms)
    if passport.fuse_a is not None:
        yield phrase("fuse {}", say(passport.fuse_a, "A"))


def _days(passport: Passport) -> Iterator[Text]:
    if passport.built is not None:
        yield phrase("built {}", passport.built)
    if passport.measured is not None:
        yield phrase("measured {}", passport.measured)


def _cautions(passport: Passport) -> Iterator[Text]:
    if passport.full_v > TOUCH_SAFE_V:
        yield phrase("Dangerous to touch: up to {} DC.", say(passport.full_v, "V"))
    yield from CAUTIONS


def charger_label_of(passport: Passport, charger: str) -> LabelFacts:
    """The label of the charger that belongs to a pack; ``charger`` is what it is called."""
    lines = [LabelLine(phrase("Only for: {}", passport.name), 1.3)]
    if charger:
        lines.append(LabelLine(charger))
    if passport.charge_v is not None and passport.charge_a is not None:
        lines.append(
            LabelLine(
                phrase("{}, {}", say(passport.charge_v, "V"), say(passport.charge_a, "A")), 1.6
            )
        )
    lines.append(LabelLine(phrase("{} in series, {}", passport.series, passport.chemistry)))
    lines += [LabelLine(text) for text in _charged_at(passport)]
    return LabelFacts("CHARGER", tuple(lines), ("Never unwatched; on what does not burn.",), None)
