"""Each cell in hand judged: what is out of family, leaks, has vented, or is past its limits."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from functools import cached_property
from operator import attrgetter
from typing import Literal

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.arrays import distinct
from lumvak.core.catalogue.boards import Family
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.recovery import recovery_v, unknown_recovery_v
from lumvak.core.document.hand import HandCell, Lot, Meter
from lumvak.core.matching.meter import apart_within
from lumvak.core.matching.taken import AsTaken
from lumvak.core.said import Text, digits, listed, phrase, say

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]
# Modified z-score: that of Iglewicz and Hoaglin (1993), and the score over which one stands out.
NORMAL_MAD, STANDS_OUT, FEWEST = 0.6745, 3.5, 8
# Of few cells the median deviation is itself not sure: the score asked for is higher.
FEW_ADD, FEW_LESS = 10.0, 4.0
# Least capacity as a share of the sheet's by origin, most resistance, least mass of the lot's.
LEAST_CAPACITY = {"new": 0.95, "reclaimed": 0.9, "used": 0.8}
MOST_RESISTANCE, LEAST_MASS = 1.5, 0.98
# A cell leaks that loses so many times the lot's median, and so many V a day at least.
LEAKS_TIMES, LEAKS_V = 4.0, 1e-3
# A difference is told where it is over so many times what the meter may be off.
TOLD_APART = 2.0
SAME = 1e-9
SAID_BY = {
    "family-grams": "vented", "family-ah": "small", "family-mohm": "resistance",
    "family-volts": "dead", "leaks": "dead",
}  # fmt: skip
USABLE = ("good", "look")
STATES = ("reject", "look", "good", "unread")
State = Literal["reject", "look", "good", "unread"]


# What speaks against a cell in words, and the units of the numbers in them.
REASONS: dict[str, tuple[str, tuple[str, ...]]] = {
    "reversed": ("is reversed, {}", ("V",)),
    "dead": ("rests at {}, under {}: never charge it again", ("V", "V")),
    "vented": ("{} is lighter than the lot's {}: it has vented or is another cell", ("g", "g")),
    "small": ("{}, {} of the sheet's {}{}, under {}", ("Ah", "%", "Ah", "", "%")),
    "resistance": ("{} is over {} times the sheet's {}", ("mΩ", "", "mΩ")),
    "leaks": ("lost {} in {}, the lot {}: it leaks", ("mV", "d", "mV")),
    "family-ah": ("capacity {} is out of family, {} the lot's {} (score {})", ("Ah", "", "Ah", "")),
    "family-mohm": ("resistance {} is out of family, {} the lot's {} (score {})",
                    ("mΩ", "", "mΩ", "")),
    "family-volts": ("OCV {} is out of family, {} the lot's {} (score {})",
                     ("V", "", "V", "")),
    "family-grams": ("mass {} is out of family, {} the lot's {} (score {})", ("g", "", "g", "")),
}  # fmt: skip
# Of these nobody should overrule one.
NEVER = ("reversed", "dead", "vented")


class CellReason(Struct, frozen=True):
    """One thing that speaks against a cell, ``told`` by its numbers and words.

    It is spelled out when somebody reads it: of thousands most are only counted.
    """

    code: str
    told: tuple[float | Text, ...]

    @property
    def text(self) -> Text:
        """The reason in words."""
        template, units = REASONS[self.code]
        return phrase(template, *map(say, self.told, units))

    @property
    def never(self) -> bool:
        """Whether nobody should overrule it."""
        return self.code in NEVER


class JudgedCell(Struct, frozen=True, eq=False):
    """A cell with what is said of it; ``state`` is what is done with it now.

    Of thousands one is made at every reading, and a tuple is the quickest.
    """

    cell: HandCell
    state: State
    reasons: tuple[CellReason, ...]

    @property
    def missing(self) -> tuple[str, ...]:
        """What of voltage, capacity and resistance was not measured."""
        return tuple(title for name, title in MEASURES[:3] if getattr(self.cell, name) is None)

    @property
    def said(self) -> Text:
        """Why, in a line."""
        found = listed((reason.text for reason in self.reasons), "; ")
        if self.cell.verdict:
            ruled: Text = "rejected by the builder"
            if self.state != "reject":
                ruled = "kept by the builder"
            if self.cell.why:
                ruled = listed((ruled, self.cell.why))
            found = phrase("{}: {}", ruled, found) if found else ruled
        lacks = phrase("{} not measured yet", listed(self.missing)) if self.missing else ""
        return listed(filter(None, (found, lacks)), "; ")


class LotUsual(Struct, frozen=True, eq=False):
    """What a lot is like: median and median deviation of a measure, and how many were read.

    ``step`` is the smallest difference between readings: what they are rounded to.
    """

    median: float
    mad: float
    count: int
    step: float = 0.0


class LotJudged(Struct, frozen=True, eq=False, dict=True):
    """A lot judged: its cells in the order of their numbers, and the medians of what was read.

    ``sheet`` is what the sheet's cell would read as the lot was measured, ``leak_told_v`` the least
    loss in V a day that the two readings of rest voltage can tell; ``None`` without two.
    """

    lot: Lot
    sheet: AsTaken | None
    cells: tuple[JudgedCell, ...]
    families: Mapping[str, LotUsual]
    leak_told_v: float | None = None

    @cached_property
    def good(self) -> tuple[JudgedCell, ...]:
        """Cells that may be used."""
        return tuple([item for item in self.cells if item.state in USABLE])


class Measures(Struct, frozen=True, eq=False):
    """Cells and what was read of each, (n, 6) in the order of READ; NaN where it was not taken."""

    cells: Sequence[HandCell]
    table: Array

    def of(self, places: Sequence[int]) -> dict[str, Array]:
        """The measures of the cells at some places, each (k,), by name."""
        return dict(zip(READ, self.table[places].T, strict=True))


MEASURES: tuple[tuple[str, str], ...] = (
    ("ah", "capacity"), ("mohm", "resistance"), ("volts", "OCV"), ("grams", "mass"),
)  # fmt: skip
READ = ("volts", "later_v", "days", "ah", "mohm", "grams")
# Where no more than so many are others than before, only those are read.
FEW_FRESH = 50
# Cells of these origins come at one charge, so that their rest voltages are a family.
ONE_CHARGE = ("new", "reclaimed")


def column(cells: Sequence[HandCell], name: str) -> Array:
    """A measure of cells, (n,); NaN where it was not taken."""
    # Nothing becomes NaN on the way.
    return np.array([*map(attrgetter(name), cells)], dtype=float)


def read_measures(cells: Sequence[HandCell], before: Measures | None = None) -> Measures:
    """All measures of cells; where few are others than ``before``, only those are read."""
    known = () if before is None else before.cells
    fresh = [
        at for at, (cell, old) in enumerate(zip(cells, known, strict=False)) if cell is not old
    ]
    fresh += range(len(known), len(cells))
    if before is None or len(known) > len(cells) or len(fresh) > FEW_FRESH:
        return Measures(cells, _table(cells))
    grown = np.concatenate([before.table, np.zeros((len(cells) - len(known), len(READ)))])
    if fresh:
        grown[fresh] = _table([cells[at] for at in fresh])
    return Measures(cells, grown)


def _table(cells: Sequence[HandCell]) -> Array:
    return np.array([column(cells, name) for name in READ]).T


def family_of(values: Array) -> LotUsual:
    """Median and median absolute deviation of what was read of ``values`` (n,)."""
    known = values[np.isfinite(values)]
    if not len(known):
        return LotUsual(float("nan"), float("nan"), 0)
    median = float(np.median(known))
    steps = np.diff(distinct(known))
    step = float(steps[steps > SAME].min(initial=np.inf))
    return LotUsual(
        median,
        float(np.median(np.abs(known - median))),
        len(known),
        step if np.isfinite(step) else 0.0,
    )


def modified_z(values: Array, family: LotUsual) -> Array:
    """Modified z-score of ``values`` (n,): 0.6745 · (x − median) ÷ MAD (methods 26)."""
    return np.asarray(NORMAL_MAD * (values - family.median) / max(family.mad, 1e-12))


def stands_out(count: int) -> float:
    """The score over which a reading of a lot of ``count`` cells is out of family."""
    if count < FEWEST:
        return float("inf")
    return STANDS_OUT * (1.0 + FEW_ADD / (count - FEW_LESS))


def judge_lot(
    lot: Lot,
    cells: Iterable[HandCell],
    cell: Cell | None,
    family: Family | None,
    meter: Meter,
    taken: AsTaken | None = None,
    measures: Mapping[str, Array] | None = None,
) -> LotJudged:
    """Judge the cells of a lot (methods 26).

    ``cell`` is what they are said to be, ``family`` its chemistry; without them only the lot itself
    is held against its cells. ``taken`` is that cell as the lot was measured, and as its sheet was
    where nothing is said; ``measures`` are those of the cells in the order of their numbers, each
    (n,), where they were read.
    """
    if taken is None and cell is not None:
        taken = AsTaken.from_sheet(cell, lot.resistance_by)
    listed = sorted(cells, key=attrgetter("number"))
    found = defaultdict[int, list[CellReason]](list)
    columns = read_measures(listed).of(range(len(listed))) if measures is None else measures
    families = {name: family_of(columns[name]) for name, _ in MEASURES}
    off = {
        "volts": apart_within(meter, columns["volts"]),
        "ah": meter.ah_percent * columns["ah"],
        "mohm": meter.ohm_percent * columns["mohm"],
        "grams": np.full(len(listed), 0.1),
    }
    for name, _ in MEASURES:
        if name == "volts" and lot.origin not in ONE_CHARGE:
            continue
        _out_of_family(found, name, columns[name], families[name], off[name])
    _limits(
        found,
        lot,
        cell=cell,
        chemistry=family,
        columns=columns,
        families=families,
        meter=meter,
        taken=taken,
    )
    leaks, told_v = _leaks(found, columns, meter)
    families = {**families, "leak": leaks}
    return LotJudged(
        lot,
        taken,
        tuple(
            [
                _judged(item, found[place]) if place in found else _unremarkable(item)
                for place, item in enumerate(listed)
            ]
        ),
        families,
        told_v,
    )


def _unremarkable(cell: HandCell) -> JudgedCell:
    if cell.verdict == "reject":
        return JudgedCell(cell, "reject", ())
    unread = cell.volts is None and cell.ah is None and cell.mohm is None
    return JudgedCell(cell, "unread" if unread else "good", ())


def _judged(cell: HandCell, found: Sequence[CellReason]) -> JudgedCell:
    if len(found) > 1:
        codes = {reason.code for reason in found}
        # Who is past a limit need not be told as out of family by the same measure too.
        found = [reason for reason in found if SAID_BY.get(reason.code) not in codes]
    kept = cell.verdict == "keep" and not any(reason.never for reason in found)
    return JudgedCell(cell, "look" if kept else "reject", tuple(found))


def _out_of_family(
    found: dict[int, list[CellReason]], name: str, values: Array, family: LotUsual, off: Array
) -> None:
    # Readings are rounded: the deviation may be half a step more than they show.
    score = modified_z(values, replace(family, mad=family.mad + family.step / 2.0))
    apart = np.abs(values - family.median) > TOLD_APART * off
    out = (np.abs(score) > stands_out(family.count)) & apart
    for at in np.flatnonzero(out).tolist():
        side = "over" if score[at] > 0 else "under"
        told = float(values[at]), side, family.median, digits(float(score[at]), ".1f")
        found[at].append(CellReason(f"family-{name}", told))


def _limits(
    found: dict[int, list[CellReason]],
    lot: Lot,
    cell: Cell | None,
    chemistry: Family | None,
    columns: Mapping[str, Array],
    families: Mapping[str, LotUsual],
    meter: Meter,
    taken: AsTaken | None,
) -> None:
    """What is past a limit whatever the lot is like."""
    volts, grams = columns["volts"], columns["grams"]
    for at in np.flatnonzero(volts < 0.0).tolist():
        found[at].insert(0, CellReason("reversed", (float(volts[at]),)))
    usual = families["grams"].median
    if families["grams"].count >= FEWEST:
        for at in np.flatnonzero(grams < LEAST_MASS * usual).tolist():
            found[at].append(CellReason("vented", (float(grams[at]), usual)))
    if cell is None or chemistry is None:
        least_v = unknown_recovery_v(families["volts"].median)
    else:
        least_v = recovery_v(cell, chemistry)
    for at in np.flatnonzero((volts >= 0.0) & (volts < least_v)).tolist():
        found[at].insert(0, CellReason("dead", (float(volts[at]), least_v)))
    if cell is None or chemistry is None or taken is None:
        return
    share, rated, how = LEAST_CAPACITY[lot.origin], taken.ah, phrase("")
    if taken.how:
        how = phrase(" ({})", taken.how)
    ah = columns["ah"]
    for at in np.flatnonzero(ah * (1.0 + meter.ah_percent) < share * rated).tolist():
        has = float(ah[at])
        found[at].append(CellReason("small", (has, has / rated, rated, how, share)))
    if taken.ohm is None:
        return
    sheet_mohm, mohm = taken.ohm * 1e3, columns["mohm"]
    most = MOST_RESISTANCE * sheet_mohm
    for at in np.flatnonzero(mohm * (1.0 - meter.ohm_percent) > most).tolist():
        found[at].append(CellReason("resistance", (float(mohm[at]), MOST_RESISTANCE, sheet_mohm)))


def _leaks(
    found: dict[int, list[CellReason]], columns: Mapping[str, Array], meter: Meter
) -> tuple[LotUsual, float | None]:
    """Cells that lose far more voltage a day than the lot does.

    Returns the lot's own loss in V a day, and the least that the two readings can tell.
    """
    first, later, days = (columns[name] for name in ("volts", "later_v", "days"))
    lost = first - later
    a_day = np.where(days >= 1.0, lost / days, np.nan)
    family = family_of(a_day)
    least = TOLD_APART * apart_within(meter, later)
    usual = max(family.median, 0.0) if family.count else 0.0
    told = lost - usual * days > least
    most = max(LEAKS_TIMES * usual, LEAKS_V) if family.count else np.inf
    for at in np.flatnonzero(told & (a_day > most)).tolist():
        lot_mv = family.median * float(days[at]) * 1000.0
        found[at].append(CellReason("leaks", (float(lost[at]) * 1000.0, float(days[at]), lot_mv)))
    both = np.isfinite(a_day)
    if not both.any():
        return family, None
    return family, max(float(np.median((least / days)[both])) + usual, most)


def summary(judged: LotJudged) -> Text:
    """What a lot really is, in a line: against its sheet, its spread, how many are out."""
    parts = list[Text]()
    ah = column([item.cell for item in judged.good], "ah")
    ah = ah[np.isfinite(ah)]
    if len(ah) and judged.sheet is not None and judged.sheet.ah > 0.0:
        against = float(np.median(ah)) / judged.sheet.ah - 1.0
        word = (
            "as the sheet says"
            if abs(against) < 0.005
            else (
                phrase(
                    "{} over the sheet" if against > 0 else "{} under the sheet",
                    say(abs(against), "%"),
                )
            )
        )
        parts.append(word)
    if len(ah) > 1:
        parts.append(phrase("spread {}", say(float(np.std(ah, ddof=1) / np.mean(ah)), "%")))
    out = sum(item.state == "reject" for item in judged.cells)
    parts.append(phrase("{} of {} rejected", out, len(judged.cells)) if out else "none rejected")
    if judged.leak_told_v is not None:
        parts.append(
            phrase("leaks from {} a day up can be seen", say(1000.0 * judged.leak_told_v, "mV"))
        )
    return listed(parts)
