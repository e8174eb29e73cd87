"""Findings about the need: the window, the load, what the kind of equipment adds, the charger."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from lumvak.core.demand import LEAD_CHARGE_V, NICKEL_RATED_V, lead_cells
from lumvak.core.finding import Finding
from lumvak.core.ranking import charger_fits
from lumvak.core.units import say

if TYPE_CHECKING:
    from lumvak.core.evaluate import Evaluation


def need_findings(seen: Evaluation) -> Iterator[Finding]:
    """What there is to notice about the need: window, load, charger, and its kind."""
    need, window = seen.project.need, seen.demand.window
    guessed = [item for item in (window.highest, window.stop) if item.origin == "assumed"]
    if guessed:
        yield Finding(
            "window-assumed",
            "note",
            "Part of the voltage window is assumed",
            "; ".join(f"{item.label} {say(item.value, 'V')}: {item.rule}" for item in guessed)
            + ".",
            "Read it off the equipment or its controller and enter it.",
            "need",
            guessed[0].key,
        )
    if need.kind == "tool" and need.nickel_cells is not None:
        implied = need.nickel_cells * NICKEL_RATED_V
        if abs(implied - need.rated_voltage_v) > NICKEL_RATED_V:
            yield Finding(
                "nickel-count",
                "warn",
                f"{need.nickel_cells} nickel cells make {say(implied, 'V')}, not "
                f"{say(need.rated_voltage_v, 'V')}",
                "A nickel cell is rated at about 1.2 V.",
                "Count the cells of the old pack again, or correct the rated voltage.",
                "need",
                "need.nickel_cells",
            )
    if seen.demand.load.power_w is not None:
        nominal = seen.demand.load.at(seen.pack.nominal.number)
        yield Finding(
            "power-load",
            "note",
            f"The load draws {say(seen.pack.current.number, 'A')} at the end, "
            f"not {say(float(nominal), 'A')}",
            "A power load draws more current as the voltage falls.",
            "Everything behind the cells is judged at the higher current.",
            "need",
            "demand.end_current_a",
        )
        if need.peak_current_a is not None and need.peak_current_a < seen.pack.current.number:
            yield Finding(
                "peak-under-load",
                "warn",
                f"The peak of {say(need.peak_current_a, 'A')} is under the load at the end",
                f"The power load reaches {say(seen.pack.current.number, 'A')}.",
                "Enter the peak that the equipment really draws.",
                "need",
                "need.peak_current_a",
            )
    if seen.demand.ambient.number < seen.choice.cell.charge_min_c:
        yield Finding(
            "cold-charge",
            "warn",
            f"Do not charge at {say(seen.demand.ambient.number, '°C')}",
            f"This cell may be charged from {say(seen.choice.cell.charge_min_c, '°C')} up; "
            "colder, metal plates out inside it.",
            "Warm the pack before charging and take a board with a temperature sensor.",
            "need",
            "need.ambient_c",
        )
    yield from _of_kind(seen)
    yield from _charger(seen)


def _charger(seen: Evaluation) -> Iterator[Finding]:
    charger, ceiling = seen.demand.charger_voltage, seen.project.pack.ceiling_v
    if ceiling is not None and ceiling > seen.choice.cell.voltage_full_v:
        yield Finding(
            "ceiling-too-high",
            "stop",
            f"A ceiling of {say(ceiling, 'V')} overcharges {seen.choice.cell.name}",
            f"The cell is full at {say(seen.choice.cell.voltage_full_v, 'V')}.",
            "Lower the ceiling, or leave it empty.",
            "need",
            "charge.voltage_v",
        )
    if charger is None:
        return
    full = seen.pack.full.number
    if charger_fits(charger.number, full):
        return
    if charger.number > full:
        yield Finding(
            "charger-too-high",
            "warn",
            f"The charger goes to {say(charger.number, 'V')}; the pack is full at {say(full, 'V')}",
            "Charging would end only when the BMS cuts off: everything leans on one protection.",
            f"Buy a certified charger for {say(full, 'V')} that ends at constant voltage.",
            "need",
            "need.charger_voltage_v",
        )
    else:
        yield Finding(
            "charger-too-low",
            "note",
            f"The charger stops at {say(charger.number, 'V')}; the pack is full at "
            f"{say(full, 'V')}",
            "The top of the charge is given up, and a board that balances at the top never gets "
            "there.",
            "Take a charger for the full voltage, or count on less run time.",
            "need",
            "need.charger_voltage_v",
        )


def _of_kind(seen: Evaluation) -> Iterator[Finding]:
    need = seen.project.need
    if need.kind == "vehicle":
        yield from _controller(seen)
    elif need.kind == "tool":
        yield from _stall(seen)
    elif need.kind == "supply":
        yield from _lead(seen)
    for place, load in enumerate(seen.demand.rails):
        if load.overloaded:
            yield Finding(
                "rail-over",
                "stop",
                f"Rail {load.rail.name} is asked for {say(load.given_w.value, 'W')}, it gives "
                f"{say(load.rail.limit_w, 'W')}",
                "All of its appliances are counted as on at once.",
                "Take a larger converter, or move an appliance to another rail.",
                "need",
                f"rails.{place}.given_w",
            )
    if need.peak_current_a is not None and need.peak_given == "estimated":
        yield Finding(
            "peak-estimated",
            "note",
            f"The peak of {say(need.peak_current_a, 'A')} is an estimate",
            "A surge that is a little over the trip of the board stops the equipment.",
            "Measure it with a clamp meter that holds the highest reading.",
            "need",
            "need.peak_current_a",
        )
    if any(load.rail.kind == "inverter" for load in seen.demand.rails):
        yield Finding(
            "inverter-mains",
            "warn",
            "An inverter makes mains voltage",
            "Its output can kill, however small the pack.",
            "Buy a finished one, and leave fixed wiring to licensed practice and local codes.",
            "need",
        )


def _controller(seen: Evaluation) -> Iterator[Finding]:
    limit = seen.project.need.controller_limit_a
    if limit is None:
        return
    continuous = seen.pack.current.number
    most = max(continuous, seen.demand.peak.number)
    if most > limit + 1e-9:
        yield Finding(
            "over-controller",
            "warn",
            f"The need says {say(most, 'A')}; the controller passes {say(limit, 'A')}",
            "The pack never sees more than the controller lets through.",
            "Correct one of them, or the pack is sized for a load that does not come.",
            "need",
            "need.peak_current_a" if most > continuous else "demand.end_current_a",
        )


def _stall(seen: Evaluation) -> Iterator[Finding]:
    stall = seen.project.need.stall_current_a
    if stall is None or seen.board is None:
        return
    stages = [stage for stage in seen.board.board.stages if stall > stage.current_a]
    if stages:
        last = stages[-1]
        yield Finding(
            "stall-cut",
            "note",
            f"A stall of {say(stall, 'A')} is cut off after {say(last.delay_s, 's')}",
            f"{seen.board.board.name} trips at {say(last.current_a, 'A')}.",
            "Let go of the trigger, and find out how the board wakes again.",
            "need",
            "need.stall_current_a",
        )
        return
    first = seen.board.board.stages[0]
    weak = min(seen.links, key=lambda link: link.peak_a)
    if stall > weak.peak_a:
        yield Finding(
            "stall-not-cut",
            "warn",
            f"Nothing cuts off a stall of {say(stall, 'A')}",
            f"{seen.board.board.name} trips from {say(first.current_a, 'A')}, the {weak.name} "
            f"carry {say(weak.peak_a, 'A')} for the length of the peak.",
            "Take a board that trips lower, or a fuse, or strengthen that part.",
            "need",
            "need.stall_current_a",
        )


def _lead(seen: Evaluation) -> Iterator[Finding]:
    need, full = seen.project.need, seen.pack.full.number
    cells = lead_cells(need)
    if need.lead_replaced and seen.demand.window.highest.number < LEAD_CHARGE_V * cells - 1e-9:
        yield Finding(
            "lead-window",
            "warn",
            f"Gear for {cells} lead cells sees {say(LEAD_CHARGE_V * cells, 'V')} while they charge",
            f"The window ends at {say(seen.demand.window.highest.value, 'V')}.",
            "Check what the equipment takes while it is charged.",
            "need",
            seen.demand.window.highest.key,
        )
    if need.lead_charger:
        yield Finding(
            "lead-charger",
            "warn",
            f"A lead charger ends near {say(LEAD_CHARGE_V * cells, 'V')}; the pack is full at "
            f"{say(full, 'V')}",
            "It may float for days, repair at far higher voltage, and charge by the temperature "
            "of lead.",
            "Switch repair and equalising off for good, or buy a certified charger for this pack.",
            "need",
            "need.charger_voltage_v",
        )
