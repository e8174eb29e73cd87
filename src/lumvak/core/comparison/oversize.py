"""A pack far over what run time and current ask for: by which need, and what would shrink it."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.catalogue.sheet_curves import ROOM_C
from lumvak.core.cells.cell_model import warm_factors_of
from lumvak.core.cells.pack_heat import FILM_W_PER_M2_K
from lumvak.core.figures.finding import Finding
from lumvak.core.said import Text, capital, digits, listed, phrase, say
from lumvak.core.sizing.counts import NEED_NAMES, parallel_ceiling
from lumvak.core.sizing.figures import PackFigures
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.served import worked_out
from lumvak.core.sizing.sized_pack import SizedPack
from lumvak.core.sizing.terms import Terms

# Over so many times what run time and continuous current ask for, a pack is told as oversized,
# and over so many it is a warning.
TIMES, WARN_TIMES = 1.5, 3.0
# A change is worth telling that leaves no more than this share of the cells.
WORTH = 0.8


class Oversize(Struct, frozen=True):
    """Why a pack is far over what run time and current ask for, and what would shrink it.

    ``plain`` is the parallel count that those two ask for.
    """

    binding: str
    parallel: int
    plain: int
    changes: tuple[Text, ...]


def oversize_of(sized_pack: SizedPack, options: Options, pack: PackFigures) -> Oversize | None:
    """Whether the pack in hand is over ``TIMES`` what run time and current ask for, and why."""
    asked = [pack.needs[name].value for name in ("capacity", "continuous")]
    if pack.needs[pack.binding].value is None or None in asked:
        return None
    plain = parallel_ceiling(max(float(value) for value in asked if isinstance(value, float)))
    parallel = sized_pack.choice.parallel
    if parallel <= TIMES * plain or pack.binding in ("capacity", "continuous"):
        return None
    return Oversize(pack.binding, parallel, plain, tuple(_changes(sized_pack, options)))


def _changes(sized_pack: SizedPack, options: Options) -> Iterator[Text]:
    """What would shrink the pack in hand, in words."""
    choice, terms, table = sized_pack.choice, sized_pack.terms, sized_pack.table
    worth = WORTH * choice.series * choice.parallel
    same = [
        place
        for place in range(len(options))
        if int(options.rows[place]) == choice.row and options.series[place] != choice.series
    ]
    if other := _fewest(options, same, worth):
        yield phrase("{} of the same cell", other)
    lower = [
        place
        for place in range(len(options))
        if table.steady_ohm[options.rows[place]] < table.steady_ohm[choice.row]
    ]
    if other := _fewest(options, lower, worth):
        yield phrase("{}, a cell of lower resistance", other)
    warm = replace(
        terms,
        coldest_c=ROOM_C,
        ohm_factor=warm_factors_of(ROOM_C, table.ohm_exponent),
        lag_factor=warm_factors_of(ROOM_C, table.lag_exponent),
    )
    if terms.coldest_c < ROOM_C and (count := _fewer_with(sized_pack, warm)) is not None:
        yield phrase("{} in parallel where it begins at {}", count, say(ROOM_C, "°C"))
    airy = replace(terms, film_w_per_m2_k=FILM_W_PER_M2_K["moving"])
    if (count := _fewer_with(sized_pack, airy)) is not None:
        yield phrase("{} in parallel in moving air", count)
    gentle = replace(terms, peak_a=0.0)
    if (count := _fewer_with(sized_pack, gentle)) is not None:
        yield phrase("{} in parallel without the peak of {}", count, say(terms.peak_a, "A"))


def _fewest(options: Options, places: list[int], worth: float) -> Text:
    """The option of the fewest cells among ``places``, in words; empty without one worth it."""
    counts = [float(options.series[place] * options.parallel[place]) for place in places]
    if not counts or min(counts) > worth:
        return ""
    place = places[int(np.argmin(counts))]
    pack = f"{int(options.series[place])}S{int(options.parallel[place])}P"
    return phrase("{} of {} ({} cells)", pack, options.cell(place).name, int(min(counts)))


def _fewer_with(sized_pack: SizedPack, terms: Terms) -> int | None:
    """The smallest parallel count of the cell and series count in hand that serves under other
    terms; ``None`` where it is hardly less, or none does.
    """
    rows, series = np.array([sized_pack.choice.row]), np.array([float(sized_pack.choice.series)])
    found = worked_out(sized_pack.table, terms, rows, series, None)
    counts = found.parallel[found.serves]
    fewer = len(counts) and counts[0] < WORTH * sized_pack.choice.parallel
    return int(counts[0]) if fewer else None


def oversize_findings(found: Oversize | None) -> Iterator[Finding]:
    """That the pack is far over what run time and current ask for."""
    if found is None:
        return
    yield Finding(
        "oversized",
        "warn" if found.parallel > WARN_TIMES * found.plain else "note",
        text=phrase(
            "{} sets {} in parallel, where run time and current ask for {}",
            capital(NEED_NAMES[found.binding]),
            found.parallel,
            found.plain,
        ),
        why=phrase(
            "One need alone makes the pack {} times as large as the others.",
            digits(found.parallel / found.plain, ".2g"),
        ),
        do=phrase("It would take {}.", listed(found.changes, "; or "))
        if found.changes
        else "Nothing smaller serves: ask for less, or for another window.",
        stage="cells",
        figure=f"needs.{found.binding}",
    )
