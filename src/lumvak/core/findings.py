"""Findings: what the evaluation has to say, and the judgements behind each."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import TYPE_CHECKING

from lumvak.core.finding import SEVERITIES, Finding
from lumvak.core.joints import Role
from lumvak.core.needfindings import need_findings
from lumvak.core.options import too_high
from lumvak.core.packfigures import EASED_CHARGE
from lumvak.core.powerfindings import power_findings
from lumvak.core.sizing import NEED_NAMES, NEEDS, parallel_ceiling
from lumvak.core.tablefindings import arrangement_findings, network_findings
from lumvak.core.units import say

if TYPE_CHECKING:
    from lumvak.core.evaluate import Evaluation

TOUCH_SAFE_V = 60.0
THIN_MARGIN = 0.10
PEAK_CHARGE = 0.20


def findings_of(seen: Evaluation) -> tuple[Finding, ...]:
    """Everything to notice, the worst first within each stage."""
    found = [
        *need_findings(seen),
        *_cells(seen),
        *_run(seen),
        *arrangement_findings(seen),
        *_joints(seen),
        *network_findings(seen),
        *power_findings(seen),
    ]
    return tuple(sorted(found, key=lambda item: SEVERITIES.index(item.severity)))


def _cells(seen: Evaluation) -> Iterator[Finding]:
    choice, pack, window = seen.choice, seen.pack, seen.demand.window
    if seen.options.limited and not len(seen.options):
        yield Finding(
            "limits-refuse",
            "stop",
            f"Your limits refuse all {seen.options.limited} packs that serve",
            f"{seen.options.refused[-1].reason}.",
            "Allow more weight, cost or other cells.",
            "cells",
        )
    elif not len(seen.options):
        yield Finding(
            "nothing-serves",
            "stop",
            "No pack in the catalogue meets this need",
            seen.options.refused[0].reason if seen.options.refused else "no cells at hand",
            "Widen the voltage window, ask for less, or add cells to your own parts.",
            "cells",
        )
    if pack.full.number > window.highest.number + 1e-9:
        yield Finding(
            "over-voltage",
            "stop",
            f"{choice.series} in series is {say(pack.full.number, 'V')} when full",
            too_high(choice.series, choice.cell.voltage_full_v, window.highest.number)
            .partition(": ")[2]
            .capitalize()
            + ".",
            f"Take at most {seen.figures['pack.series_max'].value} in series.",
            "cells",
            "pack.voltage_full_v",
        )
    for name in NEEDS:
        need = pack.needs[name]
        if need.value is None:
            yield Finding(
                f"need-{name}",
                "stop",
                "The pack cannot hold the stop voltage to the end"
                if name == "sag"
                else f"No number in parallel meets the {NEED_NAMES[name]}",
                f"Only {say(seen.figures['pack.usable_fraction'].value, '%')} of the charge is "
                f"usable over {say(window.stop.number, 'V')}.",
                "Take more in series, or a chemistry whose voltage fits the window.",
                "cells",
                need.key,
            )
        elif need.number > choice.parallel + 1e-9:
            yield Finding(
                f"need-{name}",
                "stop" if name in ("continuous", "peak") else "warn",
                f"{NEED_NAMES[name].capitalize()} asks for {need.number:.2f} in parallel, "
                f"{choice.parallel} {'is' if choice.parallel == 1 else 'are'} there",
                f"{need.rule[0].upper()}{need.rule[1:]}.",
                f"Take {math.ceil(need.number - 1e-9)} in parallel, or another cell.",
                "cells",
                need.key,
            )
    yield from _sag_relief(seen)
    yield from _cell_cautions(seen)


def _sag_relief(seen: Evaluation) -> Iterator[Finding]:
    """Where only the last of the charge asks for more cells, say what letting it go would save."""
    eased, sag = seen.pack.eased_need, seen.pack.needs["sag"]
    if seen.pack.binding != "sag" or not math.isfinite(eased):
        return
    count = parallel_ceiling(eased)
    if count >= seen.choice.parallel:
        return
    yield Finding(
        "sag-sets",
        "note",
        f"Sag at the end of the charge sets {seen.choice.parallel} in parallel",
        f"If the equipment may stop at {say(EASED_CHARGE, '%')} charge, {count} would do.",
        f"Set “down to” to {say(EASED_CHARGE, '%')}, or take a cell with less resistance.",
        "cells",
        sag.key,
    )


def _cell_cautions(seen: Evaluation) -> Iterator[Finding]:
    cell, pack = seen.choice.cell, seen.pack
    if pack.full.number > TOUCH_SAFE_V:
        yield Finding(
            "over-60-v",
            "warn",
            f"{say(pack.full.number, 'V')} when full is more than is usually treated as touch-safe",
            "Over 60 V DC a shock can injure.",
            "Insulated tools, covered terminals, local rules, and a competent person.",
            "cells",
            "pack.voltage_full_v",
        )
    if seen.figures["cell.resistance_ohm"].assumed:
        yield Finding(
            "resistance-assumed",
            "note",
            f"The resistance of {cell.name} is assumed",
            seen.figures["cell.resistance_ohm"].rule + ".",
            "Measure a few cells, and enter the figure in your own parts.",
            "cells",
            "cell.resistance_ohm",
        )
    if cell.continuous_at_c is not None:
        yield Finding(
            "rating-hot",
            "note",
            f"Its continuous rating holds with the cell at {say(cell.continuous_at_c, '°C')}",
            "The sheet's maximum is reached at a temperature nobody wants inside a pack.",
            f"Only {say(seen.project.pack.derating, '%')} of it is counted on here.",
            "cells",
            "cell.continuous_a",
        )
    if cell.origin == "reclaimed":
        yield Finding(
            "reclaimed",
            "warn",
            "Reclaimed cells: measure each one before use",
            "Their capacity and resistance differ from cell to cell, and some are damaged.",
            "Reject swollen, leaking or very low cells; recycle them by local rules.",
            "cells",
            "pack.ageing_reclaimed",
        )
    if 0.0 <= seen.figures["pack.headroom"].number < THIN_MARGIN:
        yield Finding(
            "cells-thin",
            "note",
            f"The cells have {say(seen.figures['pack.headroom'].number, '%')} to spare",
            "Ageing and a warm day take that away.",
            "One more in parallel, or a cell with a higher rating.",
            "cells",
            "pack.headroom",
        )


def _run(seen: Evaluation) -> Iterator[Finding]:
    run, pack = seen.run.run, seen.project.pack
    left = float(run.charge[-1])
    if run.ended == "power not to be had":
        yield Finding(
            "power-not-to-be-had",
            "stop",
            f"The pack gives up at {say(left, '%')} charge",
            f"From there on no current gives {say(seen.demand.load_figure.value, 'W')}: the "
            "voltage falls faster than the current rises.",
            "Take more cells in parallel or a cell with less resistance.",
            "run",
            "run.time_h",
        )
    elif run.ended == "too warm":
        yield Finding(
            "too-warm",
            "warn",
            f"The cells reach {say(pack.temperature_limit_c, '°C')} after "
            f"{say(run.hours, 'h')}, with {say(left, '%')} charge left",
            "The heat of the cells cannot leave fast enough.",
            "More in parallel, a cell with less resistance, or more air around the pack.",
            "run",
            "run.warmest_c",
        )
    if seen.project.need.peak_current_a is not None and seen.run.peak_from > PEAK_CHARGE:
        yield Finding(
            "peak-stops",
            "warn",
            f"A peak of {say(seen.demand.peak.value, 'A')} stops the equipment below "
            f"{say(seen.run.peak_from, '%')} charge",
            f"It pulls the pack to {say(seen.demand.window.stop.value, 'V')} for a moment.",
            "Pull gently near the end, or take a pack with less resistance.",
            "run",
            "run.peak_from_charge",
        )
    yield Finding(
        "first-run",
        "note",
        "Attend the first discharge",
        "On a surface that cannot burn, away from a way out, with a way to carry it outside.",
        "A pack is released on measured values, not on these.",
        "run",
    )


def _joints(seen: Evaluation) -> Iterator[Finding]:
    school = seen.project.joints.school
    for result in (seen.group, seen.series):
        role, chosen = result.setting.role, result.chosen
        link = next((item for item in seen.links if item.key == f"{role}-joints"), None)
        if link is None or math.isinf(link.continuous_a):
            continue
        limit, peak = link.continuous_a, link.peak_a
        cure = (
            f"Take {result.proposal.name}: it carries {say(result.proposal.limits_a[school], 'A')}."
            if result.proposal.limits_a[school] > limit
            else "Use more strips side by side, or a busbar."
        )
        if limit < result.setting.current_a - 1e-9:
            yield Finding(
                f"{role}-joint-limit",
                "stop",
                f"{role.capitalize()} joints carry {say(limit, 'A')}, the load draws "
                f"{say(result.setting.current_a, 'A')}",
                f"{chosen.name}, by the {school} school; {_where(seen, role)}.",
                cure,
                "joints",
                link.limit.key,
            )
        elif peak < result.setting.peak_a - 1e-9:
            yield Finding(
                f"{role}-joint-peak",
                "warn",
                f"{role.capitalize()} joints carry {say(peak, 'A')} for "
                f"{say(result.setting.peak_s, 's')}, the peak is "
                f"{say(result.setting.peak_a, 'A')}",
                f"{chosen.name}, by the {school} school.",
                cure,
                "joints",
                link.limit.key,
            )
        if chosen.barred:
            yield Finding(
                f"{role}-joint-barred",
                "warn",
                f"{chosen.part.name} {chosen.barred}",
                "It can be set all the same.",
                f"Take {result.proposal.name}, or change what the welder joins.",
                "joints",
                f"joints.{role}.thickness_mm",
            )
        if chosen.part.material == "plated steel":
            yield Finding(
                f"{role}-joint-steel",
                "note",
                f"{chosen.part.name} is steel under the plating",
                "It has twice the resistance of nickel and rusts where the plating is cut.",
                "Measure a strip of known length: pure nickel reads half.",
                "joints",
                f"joints.{role}.resistance_ohm",
            )
    if seen.weakest is not None and seen.weakest.stage == "joints" and not seen.weakest.bursts:
        cells = next(link for link in seen.links if link.key == "cells")
        if cells.continuous_a > 1.1 * seen.weakest.continuous_a:
            yield Finding(
                "joints-set-rating",
                "note",
                f"The {seen.weakest.name} set the rating, {say(seen.weakest.continuous_a, 'A')}",
                f"The cells could give {say(cells.continuous_a, 'A')}.",
                "More strip or a busbar there raises what the whole pack can do.",
                "joints",
                seen.weakest.limit.key,
            )
    yield Finding(
        "live-terminals",
        "note",
        "A charged cell cannot be switched off",
        "Rings, tools and loose strips short it.",
        "Cover every terminal that is not being worked on; wear eye protection.",
        "joints",
    )


def _where(seen: Evaluation, role: Role) -> str:
    """Where a kind of joint is first at its limit, and how warm it gets there."""
    piece = seen.table.busiest(role)
    carried = seen.table.carried
    if piece is None or carried is None:
        result = seen.series if role == "series" else seen.group
        return f"they would rise {say(result.chosen.rise_k, 'K')} over the cells"
    rise = float(carried.rise_k[piece])
    warm = f"rises {say(rise, 'K')}" if math.isfinite(rise) else "runs away"
    return f"the {seen.table.pieces.name(piece)} is first, and {warm}"
