"""What there is to notice about cells and count, and about a load that they do not suit."""

from __future__ import annotations

import math
from collections.abc import Iterator

from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.sheet_curves import ROOM_C, ROOM_WITHIN_K
from lumvak.core.document.need import Need
from lumvak.core.document.pack import Pack
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import TOUCH_SAFE_V, Finding
from lumvak.core.need.demand import Demand
from lumvak.core.need.window import LEAD_CHARGE_V, VoltageWindow, lead_cells
from lumvak.core.said import capital, digits, phrase, say
from lumvak.core.sizing.choice import Choice
from lumvak.core.sizing.counts import NEED_NAMES, NEEDS
from lumvak.core.sizing.figures import PackFigures
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.search import LEAST_OF_RATED
from lumvak.core.sizing.sized_pack import SizedPack

THIN_MARGIN = 0.10
# A discharge stands for temperatures and currents within so much of its own.
SAME_COLD_K, SAME_CURRENT = 3.0, 1.2


def load_findings(need: Need, demand: Demand, pack: PackFigures) -> Iterator[Finding]:
    """A power load, which draws more at the end than at the nominal voltage."""
    if pack.at_nominal is not None:
        yield Finding(
            "power-load",
            "note",
            text=phrase(
                "The load draws {} at the end, not {}",
                say(pack.current.number, "A"),
                say(pack.at_nominal.value, "A"),
            ),
            why="A power load draws more current as the voltage falls.",
            do="Everything behind the cells is judged at the higher current.",
            stage="need",
            figure="demand.end_current_a",
            beside=(pack.at_nominal.key,),
        )
        if need.peak_current_a is not None and need.peak_current_a < pack.current.number:
            yield Finding(
                "peak-under-load",
                "warn",
                text=phrase(
                    "The peak of {} is under the load at the end", say(need.peak_current_a, "A")
                ),
                why=phrase("The power load reaches {}.", say(pack.current.number, "A")),
                do="Enter the peak that the equipment really draws.",
                stage="need",
                figure="need.peak_current_a",
            )


def equipment_findings(need: Need, demand: Demand, pack: PackFigures) -> Iterator[Finding]:
    """What a controller lets by, and what gear made for lead cells sees."""
    if need.kind == "vehicle":
        yield from _controller(need, demand, pack)
    elif need.kind == "supply":
        yield from _lead(need, demand, pack)


def _controller(need: Need, demand: Demand, pack: PackFigures) -> Iterator[Finding]:
    limit = need.controller_limit_a
    if limit is None:
        return
    continuous = pack.current.number
    most = max(continuous, demand.peak.number)
    if most > limit + 1e-9:
        yield Finding(
            "over-controller",
            "warn",
            text=phrase(
                "The need says {}; the controller passes {}", say(most, "A"), say(limit, "A")
            ),
            why="The pack never sees more than the controller lets through.",
            do="Correct one of them, or the pack is sized for a load that does not come.",
            stage="need",
            figure="need.peak_current_a" if most > continuous else "demand.end_current_a",
        )


def _lead(need: Need, demand: Demand, pack: PackFigures) -> Iterator[Finding]:
    full = pack.full.number
    cells = lead_cells(need)
    if need.lead_replaced and demand.window.highest.number < LEAD_CHARGE_V * cells - 1e-9:
        yield Finding(
            "lead-window",
            "warn",
            text=phrase(
                "Gear for {} lead cells sees {} while they charge",
                cells,
                say(LEAD_CHARGE_V * cells, "V"),
            ),
            why=phrase("The window ends at {}.", say(demand.window.highest.value, "V")),
            do="Check what the equipment takes while it is charged.",
            stage="need",
            figure=demand.window.highest.key,
        )
    if need.lead_charger:
        yield Finding(
            "lead-charger",
            "warn",
            text=phrase(
                "A lead charger ends near {}; the pack is full at {}",
                say(LEAD_CHARGE_V * cells, "V"),
                say(full, "V"),
            ),
            why="It may float for days, repair at far higher voltage, and charge by the "
            "temperature of lead.",
            do="Switch repair and equalising off permanently, or buy a certified charger for this "
            "pack.",
            stage="need",
            figure="need.charger_voltage_v",
        )


def beyond_sheet_findings(
    cell: Cell, coldest: Figure, current: Figure, parallel: Figure
) -> Iterator[Finding]:
    """Whether the cold and the current go beyond every discharge that the cell's sheet draws."""
    each_a = current.number / parallel.number
    cold = coldest.number < ROOM_C - ROOM_WITHIN_K
    if not cell.curves or not cold:
        return
    drawn = any(
        curve.temperature_c <= coldest.number + SAME_COLD_K
        and curve.current_a * SAME_CURRENT >= each_a
        for curve in cell.curves
    )
    if not drawn:
        yield Finding(
            "beyond-sheet",
            "note",
            text=phrase(
                "No discharge of the sheet of {} is so cold and so fast: {} and {} a cell",
                cell.name,
                say(coldest.value, "°C"),
                say(each_a, "A"),
            ),
            why="From slower or warmer ones the charge may come out a quarter too high.",
            do="Enter a discharge at this current in the cold under “curves”, or count on less.",
            stage="cells",
            figure="pack.current_per_cell_a",
            beside=(coldest.key,),
        )


def cold_start_findings(sized_pack: SizedPack) -> Iterator[Finding]:
    """Whether a run at the coldest begins under the voltage at which it ends, and warms out of it.

    Full, with the resistance of cells as cold as the air.
    """
    packs, terms = sized_pack.packs, sized_pack.terms
    if terms.coldest_c >= ROOM_C:
        return
    table, rows = sized_pack.table, packs.rows
    current = float(packs.at_stop_a[0])
    ohm = table.steady_ohm[rows] * terms.ohm_factor[rows] * table.shape_at(rows, 1.0)
    cell_v = float((table.ocv_at(rows, 1.0) - current / sized_pack.choice.parallel * ohm)[0])
    volts = sized_pack.choice.series * cell_v - current * float(packs.outside_ohm[0])
    least_v = max(terms.stop_v or 0.0, float(packs.empty_v[0]))
    if volts >= least_v or float(sized_pack.worked.usable[0]) <= 0.0:
        return
    yield Finding(
        "starts-weak",
        "warn",
        text=phrase(
            "At {} the pack begins at {} under load, under the {} at which it ends",
            say(terms.coldest_c, "°C"),
            say(volts, "V"),
            say(least_v, "V"),
        ),
        why="Its cells warm themselves once they run, and give their charge then.",
        do="Begin gently or in the warm: cells kept indoors until the start do not sag so.",
        stage="cells",
        figure="heat.cold_end_c",
    )


def pack_findings(
    options: Options,
    choice: Choice,
    pack: PackFigures,
    window: VoltageWindow,
    wanted: Pack,
) -> Iterator[Finding]:
    """Whether anything serves, whether the pack in hand does, and what its cells ask for.

    ``wanted`` is what the builder said of it. It is long, for each finding is a few sentences.
    """
    if options.limited and not len(options):
        yield Finding(
            "limits-refuse",
            "stop",
            phrase("Your limits refuse all {} packs that serve", options.limited),
            phrase("{}.", options.refused[-1].reason),
            "Allow more mass, cost or other cells.",
            "cells",
        )
    elif not len(options):
        yield Finding(
            "nothing-serves",
            "stop",
            "No pack in the catalogue meets this need",
            options.refused[0].reason if options.refused else "no cells at hand",
            "Widen the voltage window, ask for less, or add cells to your own parts.",
            "cells",
        )
    if pack.full.number > window.highest.number + 1e-9:
        yield Finding(
            "over-voltage",
            "stop",
            text=phrase("{} in series is {} when full", choice.series, say(pack.full.number, "V")),
            why=phrase(
                "{} against a maximum of {}.",
                say(choice.series * choice.cell.voltage_full_v, "V"),
                say(window.highest.number, "V"),
            ),
            do=phrase("Take at most {} in series.", int(pack.series_max.number)),
            stage="cells",
            figure="pack.voltage_full_v",
        )
    for name in NEEDS:
        need = pack.needs[name]
        if need.value is None:
            yield Finding(
                f"need-{name}",
                "stop",
                text="The pack cannot hold the peak"
                if name == "sag"
                else phrase("No number in parallel meets the {}", NEED_NAMES[name]),
                why=phrase("{}.", capital(need.rule)),
                do="Take more in series, or a chemistry whose voltage fits the window.",
                stage="cells",
                figure=need.key,
                cure="pack.series",
            )
        elif need.number > choice.parallel + 1e-9:
            yield Finding(
                f"need-{name}",
                "stop" if name in ("continuous", "peak") else "warn",
                text=phrase(
                    "{} asks for {} in parallel, {} is there"
                    if choice.parallel == 1
                    else "{} asks for {} in parallel, {} are there",
                    capital(NEED_NAMES[name]),
                    digits(need.number, ".2f"),
                    choice.parallel,
                ),
                why=phrase("{}.", capital(need.rule)),
                do=phrase("Take {} in parallel, or another cell.", math.ceil(need.number - 1e-9)),
                stage="cells",
                figure=need.key,
            )
    if pack.usable.number < wanted.least_usable - 1e-9:
        yield Finding(
            "gives-up",
            "stop",
            text=phrase("Only {} of the charge is usable", say(pack.usable.value, "%")),
            why=phrase(
                "The rest lies under {}, where the equipment {}.",
                say(window.stop.number, "V"),
                window.stop_words,
            ),
            do=phrase(
                "Take more in series, or a chemistry whose voltage fits the window; {} is the "
                "least.",
                say(wanted.least_usable, "%"),
            ),
            stage="cells",
            figure="pack.usable_fraction",
        )
    nominal, rated = pack.nominal.number, window.rated.number
    if nominal < LEAST_OF_RATED * rated - 1e-9:
        yield Finding(
            "runs-low",
            "stop",
            text=phrase(
                "{} nominal is {} of the rated {}",
                say(nominal, "V"),
                say(nominal / rated, "%"),
                say(rated, "V"),
            ),
            why="Power goes with the square of the voltage.",
            do=phrase(
                "Take more in series; {} of the rated voltage is the least.",
                say(LEAST_OF_RATED, "%"),
            ),
            stage="cells",
            figure="pack.voltage_nominal_v",
        )
    yield from _cell_cautions(choice.cell, pack, wanted.derating)


def _cell_cautions(cell: Cell, pack: PackFigures, derating: float) -> Iterator[Finding]:
    if pack.full.number > TOUCH_SAFE_V:
        yield Finding(
            "over-60-v",
            "warn",
            text=phrase(
                "{} when full is more than is usually treated as touch-safe",
                say(pack.full.number, "V"),
            ),
            why="Over 60 V DC a shock can injure.",
            do="Insulated tools, covered terminals, local rules, and a competent person.",
            stage="cells",
            figure="pack.voltage_full_v",
        )
    if pack.resistance.assumed:
        yield Finding(
            "resistance-assumed",
            "note",
            text=phrase("The resistance of {} is assumed", cell.name),
            why=phrase("{}.", pack.resistance.rule),
            do="Measure a few cells, and enter the figure in your own parts.",
            stage="cells",
            figure="cell.resistance_ohm",
        )
    if cell.continuous_at_c is not None:
        yield Finding(
            "rating-hot",
            "note",
            text=phrase(
                "Its continuous rating holds with the cell at {}", say(cell.continuous_at_c, "°C")
            ),
            why="The sheet's maximum is reached at a temperature nobody wants inside a pack.",
            do=phrase("Only {} of it counts here.", say(derating, "%")),
            stage="cells",
            figure="cell.continuous_a",
        )
    if cell.origin == "reclaimed":
        yield Finding(
            "reclaimed",
            "warn",
            text="Reclaimed cells: measure each one before use",
            why="Their capacity and resistance differ from cell to cell, and some are damaged.",
            do="Reject swollen, leaking or very low cells; recycle them by local rules.",
            stage="cells",
            figure="pack.ageing_reclaimed",
        )
    if 0.0 <= pack.headroom.number < THIN_MARGIN:
        yield Finding(
            "cells-thin",
            "note",
            text=phrase("The cells have a margin of {}", say(pack.headroom.number, "%")),
            why="Ageing and a warm day take that away.",
            do="One more in parallel, or a cell with a higher rating.",
            stage="cells",
            figure="pack.headroom",
        )
