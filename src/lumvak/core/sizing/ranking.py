"""Why one pack ranks before another: what counts against each, and how much (methods 7)."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.document.need import Kind
from lumvak.core.document.pack import Held, Pack
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.need.demand import Demand
from lumvak.core.said import Text, capital, phrase
from lumvak.core.sizing.packs import Packs
from lumvak.core.sizing.terms import Array, Rows
from lumvak.core.sizing.usable import Worked

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
PACK_WEIGHTS = Rule("pack.weights.{}", "{}: weight", "", "{}", "methods 7")
SCORE = Rule("pack.score", "Counts against it", "",
             "sum of what counts against it, the most first; the least of all ranks first",
             "methods 7")
COUNTED = Rule("rank.{}_counted", "{}, counted", "", "{}", "methods 7")
RANK = Rule("rank.{}", "{}", "", "weight × what is counted", "methods 7")
# fmt: on

CHARGER_TOLERANCE = 0.01
# Hours of work: to measure, lay and weld a cell, to strip and tap a group, and to case a pack.
HOURS_A_CELL, HOURS_A_GROUP, HOURS_A_PACK = 0.08, 0.08, 1.0
# To measure and sort a reclaimed cell; nickel, holder and welds of a cell, in money.
HOURS_A_RECLAIMED, JOINTS_COST_A_CELL = 0.15, 0.5
# Shares of the rated voltage that count as at it, and what running low counts at once.
NEAR_RATED, RUNS_LOW = (0.95, 1.08), 0.5
# Charge given up counts from this usable share down.
GIVEN_UP_FROM = 0.95
# Packs that a need so much away may turn round are as good as each other.
ALIKE = 0.03
# Up to this share of the rise allowed, warmth does not count.
COOL_ENOUGH = 0.5


class Measure(Struct, frozen=True):
    """One thing that may count against a pack: its name, how it is counted, and from what."""

    name: str
    rule: Text
    figures: tuple[str, ...] = ()


# What is said of everything that goes with the number of cells.
MEANT = "meant over needs 5 % less to 5 % more"

MEASURES: Mapping[str, Measure] = {
    "cost": Measure(
        "cost",
        phrase(
            "doublings over the cheapest that serves, with 0.50 a cell for its joints; {}", MEANT
        ),
        ("pack.cost", "pack.cell_count"),
    ),
    "mass": Measure(
        "mass", phrase("doublings over the lightest that serves; {}", MEANT), ("pack.mass_kg",)
    ),
    "volume": Measure(
        "volume", phrase("doublings over the smallest that serves; {}", MEANT), ("pack.volume_l",)
    ),
    "work": Measure(
        "hours of work",
        phrase(
            "doublings over the least; 0.08 h a cell, 0.15 h more a reclaimed one, 0.08 h "
            "a group, 1 h a pack; {}",
            MEANT,
        ),
        ("pack.cell_count",),
    ),
    "warmth": Measure(
        "warmth",
        "rise ÷ rise allowed, from one half on: 0 at half of it, 1 at all of it",
        ("heat.rise_end_k",),
    ),
    "surplus": Measure(
        "charge beyond the need",
        "doublings of what it gives over what is wanted",
        ("pack.usable_ah",),
    ),
    "rated": Measure(
        "off the rated voltage",
        "nothing from 0.95 to 1.08 of it; doublings over that, 0.5 and the halvings under it",
        ("pack.voltage_nominal_v",),
    ),
    "given_up": Measure(
        "charge given up",
        "share of the charge that is not usable, from 5 % on",
        ("pack.usable_fraction",),
    ),
    "held": Measure(
        "not on hand", "1 where cells are on hand, and not enough of this one", ("pack.cell_count",)
    ),
    "reclaimed": Measure("reclaimed cells", "1 for reclaimed cells, unless such are wanted"),
    "charger": Measure(
        "another charger",
        "1 where the charger there is does not fit, within 1 %",
        ("pack.voltage_full_v",),
    ),
    "board": Measure("no BMS", "1 where no BMS at hand passes the load", ("demand.end_current_a",)),
}
KIND_NAMES: Mapping[Kind, str] = {
    "vehicle": "vehicle",
    "tool": "tool",
    "supply": "supply",
    "portable": "supply that is carried",
}
# What each counts where the builder says nothing: vehicles, tools, supplies, things carried.
WEIGHTS: Mapping[Kind, Mapping[str, float]] = {
    "vehicle": {"cost": 0.25, "mass": 0.60, "volume": 0.10, "work": 0.30},
    "tool": {"cost": 0.15, "mass": 0.80, "volume": 0.20, "work": 0.80, "rated": 0.4},
    "supply": {"cost": 0.45, "mass": 0.30, "volume": 0.10, "work": 0.35},
    "portable": {"cost": 0.25, "mass": 0.60, "volume": 0.15, "work": 0.25},
}
SHARED_WEIGHTS: Mapping[str, float] = {
    "warmth": 0.2, "surplus": 0.05, "rated": 1.0, "given_up": 1.0, "held": 1.0, "reclaimed": 0.25,
    "charger": 0.25, "board": 1.0,
}  # fmt: skip


def weights_of(pack: Pack, kind: Kind) -> dict[str, float]:
    """What each of MEASURES counts: as the builder said, else as usual for the equipment."""
    usual = {**SHARED_WEIGHTS, **WEIGHTS[kind]}
    said = pack.weights
    return {name: usual[name] if (own := getattr(said, name)) is None else own for name in MEASURES}


def measures_of(
    catalogue: Catalogue,
    packs: Packs,
    demand: Demand,
    pack: Pack,
    done: Worked,
    weighs: Array,
) -> dict[str, Array]:
    """What counts against each pack, by the names of MEASURES, (n,) each, 0 for nothing.

    ``done`` is what ``worked`` gives for them, ``weighs`` the parallel counts (n,) that count, see
    ``served.even_count``.
    """
    table, rows, series, terms = packs.table, packs.rows, packs.series, packs.terms
    more = weighs / packs.parallel
    count = series * weighs
    reclaimed = np.array([cell.origin == "reclaimed" for cell in table.cells], dtype=float)[rows]
    each_h = HOURS_A_CELL + HOURS_A_RECLAIMED * reclaimed
    allowed = terms.temperature_limit_c - terms.ambient_c
    rise = done.warmth.rise_end_k / more**2
    share = rise / allowed if allowed > 0.0 else np.ones_like(series)
    delivered = done.aged_ah * done.usable * more
    with np.errstate(divide="ignore", invalid="ignore"):
        times = np.where(done.wanted_ah > 0.0, delivered / done.wanted_ah, 1.0)
    of_rated = np.maximum(series * table.nominal_v[rows], 1e-9) / demand.window.rated.number
    strongest = _strongest_boards(catalogue, table, int(series.max(initial=0.0)))
    measures = {
        "cost": _doublings(count * (table.price[rows] + JOINTS_COST_A_CELL)),
        "mass": _doublings(count * table.mass_kg[rows]),
        "volume": _doublings(count * table.volume_cm3[rows]),
        "work": _doublings(each_h * count + HOURS_A_GROUP * series + HOURS_A_PACK),
        "warmth": np.maximum(share - COOL_ENOUGH, 0.0) / (1.0 - COOL_ENOUGH),
        "surplus": np.log2(np.maximum(times, 1.0)),
        "rated": off_rated(of_rated),
        "given_up": np.maximum(GIVEN_UP_FROM - done.usable, 0.0) / GIVEN_UP_FROM,
        "held": _not_held(table, rows, series * packs.parallel, pack.drawer),
        "reclaimed": reclaimed * (pack.origin != "reclaimed"),
        "charger": np.zeros_like(series),
        "board": 1.0 * (strongest[rows, series.astype(int)] < done.end_current_a),
    }
    if demand.charger_voltage is not None:
        fits = charger_fits(demand.charger_voltage.number, series * table.full_v[rows])
        measures["charger"] = 1.0 * ~fits
    return {name: np.asarray(column, dtype=float) for name, column in measures.items()}


def off_rated(share: Array) -> Array:
    """What counts for a nominal voltage that is ``share`` of the rated one (any shape).

    Nothing near it; one that runs low comes after all that do not.
    """
    low, high = NEAR_RATED
    under = np.where(share < low - 1e-9, RUNS_LOW + np.log2(low / share), 0.0)
    return under + np.where(share > high + 1e-9, np.log2(share / high), 0.0)


def by_count(weights: Mapping[str, float]) -> float:
    """How much a doubling of the number of cells counts."""
    return sum(weights[name] for name in ("cost", "mass", "volume", "work"))


def score_of(measures: Mapping[str, Array], weights: Mapping[str, float]) -> Array:
    """The sum of what counts against each pack times its weight, (n,)."""
    first, *others = (weights[name] * measures[name] for name in MEASURES)
    return np.asarray(sum(others, first))


def weight_for_first(
    measures: Mapping[str, Array], weights: Mapping[str, float], place: int
) -> dict[str, float]:
    """With which weight of one measure alone a pack would rank first, where there is such.

    ``place`` is its place in the columns of ``measures``, (n,) each. Gives the nearest weight for
    each measure by which it can be done.
    """
    score = score_of(measures, weights)
    behind = score[place] - score
    found: dict[str, float] = {}
    for name, column in measures.items():
        # Moving the weight by d moves the gap to each other by d times the difference.
        per = column[place] - column
        if np.any((per == 0.0) & (behind > 1e-12)):
            continue
        with np.errstate(divide="ignore", invalid="ignore"):
            bound = -behind / per
        low = float(np.max(bound[per < 0.0], initial=-np.inf))
        high = float(np.min(bound[per > 0.0], initial=np.inf))
        low = max(low, -weights[name])
        if low <= high:
            found[name] = weights[name] + min(max(0.0, low), high)
    return found


def _doublings(values: Array) -> Array:
    """How often each is twice the least, (n,)."""
    if not len(values):
        return values
    least = max(float(values.min()), 1e-9)
    return np.asarray(np.log2(np.maximum(values, 1e-9) / least))


def _not_held(
    table: CellTable, rows: Rows, count: Array, drawer: tuple[Held, ...]
) -> NDArray[np.float64]:
    """1 where cells are on hand and too few of these, (n,)."""
    if not drawer:
        return np.zeros(len(rows))
    held = np.zeros(len(table.cells))
    for item in drawer:
        row = table.row_of(item.cell)
        if row is not None:
            held[row] += item.count
    return np.asarray(1.0 * (count > held[rows]))


def charger_fits(charger_v: float, full_v: Array | float) -> NDArray[np.bool_]:
    """Whether a charger's end voltage is the full voltage of packs (any shape), within 1 %."""
    return np.asarray(np.abs(charger_v / full_v - 1.0) <= CHARGER_TOLERANCE)


def _strongest_boards(catalogue: Catalogue, table: CellTable, most: int) -> Array:
    """(cells, most + 1) the most current in A that a board passes for each cell and count."""
    families = {catalogue.chemistry_of(cell).family for cell in table.cells}
    by_family = {family: np.zeros(most + 1) for family in families}
    for (family, series), current_a in catalogue.strongest_board_a.items():
        if family in by_family and series <= most:
            by_family[family][series] = current_a
    return np.array([by_family[catalogue.chemistry_of(cell).family] for cell in table.cells])


@lru_cache(maxsize=256)
def _weight_figure(name: str, said: float | None, kind: Kind) -> Figure:
    """How much a measure counts: as the builder said, else as usual for the equipment."""
    usual = {**SHARED_WEIGHTS, **WEIGHTS[kind]}[name]
    return PACK_WEIGHTS.of(
        usual if said is None else said,
        origin="default" if said is None else "typed",
        key=name,
        label=capital(MEASURES[name].name),
        rule=phrase("usual for a {}", KIND_NAMES[kind]) if said is None else "as entered",
    )


def rank_figures(
    measures: Mapping[str, Array],
    place: int | None,
    pack: Pack,
    kind: Kind,
    of_pack: tuple[Figure, ...],
    of_warmth: tuple[Figure, ...],
    current: Figure,
) -> tuple[Figure, ...]:
    """What counts against the option in hand, as figures (methods 7).

    ``place`` is its place in the columns of ``measures``, (n,) each; a pack that is no option has
    none. ``of_pack`` and ``of_warmth`` are figures of the pack in hand, ``current`` what is drawn
    from it; each measure names those it is counted from.
    """
    if place is None:
        return ()
    known = {figure.key: figure for figure in (*of_pack, *of_warmth, current)}
    parts, weights = [], []
    for name, measure in MEASURES.items():
        weight = _weight_figure(name, getattr(pack.weights, name), kind)
        weights.append(weight)
        inputs = tuple(known[key] for key in measure.figures if key in known)
        counted = COUNTED.of(
            float(f"{float(measures[name][place]):.9g}"),
            *inputs,
            origin="computed" if inputs else "sheet",
            key=name,
            label=capital(measure.name),
            rule=measure.rule,
        )
        parts.append(
            RANK.of(
                weight.number * counted.number,
                weight,
                counted,
                key=name,
                label=capital(measure.name),
            )
        )
    counting = [part for part in parts if part.number > 0.0] or parts[:1]
    counting.sort(key=lambda part: -part.number)
    total = SCORE.of(sum(part.number for part in counting), *counting)
    return (total, *parts, *weights)
