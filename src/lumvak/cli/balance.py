"""``lumvak balance``: what groups give, what is lost in each and why, what evening out takes."""

from __future__ import annotations

import argparse
import re
import sys
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np

from lumvak.cli.batch import run_batch, usual_options
from lumvak.cli.evaluate import read_evaluation
from lumvak.cli.table import json_text, table
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Chemistry
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.charging.cycles import CycleSetting, cycles
from lumvak.core.charging.evening import UNDER_CEILING_V
from lumvak.core.charging.groups_run import Active, Array, Bleed, Groups
from lumvak.core.charging.phase import Equipment, Grain
from lumvak.core.charging.vessels import Way, excess_ah, hours_to_even, usable_as, vessels
from lumvak.core.charging_in_hand import cycle_setting
from lumvak.core.evaluation import Evaluation
from lumvak.core.units import (
    CAPACITY,
    CURRENT,
    FRACTION,
    VOLTAGE,
    QuantityError,
    parse,
    say,
    say_hours,
)
from lumvak.files.catalogue_file import load_catalogue

MOST_GROUPS, MOST_CYCLES = 400, 1000
# Groups that are given alone are cells of this sort, by the volts that they bleed at.
BY_VOLTS = ((3.8, "ostrel-21-48"), (2.9, "fennimor-b-105"), (0.0, "rondel-b-20"))
# They are charged and emptied in so many hours, with 50 mΩ·Ah.
HOURS, OHM_AH = 5.0, 0.05
GRAIN = Grain(600.0, 1.0 / 10.0, 30.0, 1e-5)


class BalanceError(ValueError):
    """Groups, a bleed or a mover that cannot be meant so."""


@dataclass(frozen=True, eq=False)
class BalanceCase:
    """Groups with what evens them out; ``setting`` is how they are used over cycles.

    ``begins`` is whether any group comes to where it is bled.
    """

    groups: Groups
    share: Array
    bleed: Bleed | None
    active: Active | None
    way: Way
    count: int
    setting: CycleSetting
    begins: bool = True


def groups_of(text: str) -> list[tuple[float, float]]:
    """Ah and charge of each group from ``15.0Ah@80%,14.6Ah@78%``; raises BalanceError."""
    found = []
    for place, item in enumerate(re.split(r"[;,](?=\s*[\d.])", text), 1):
        size, at, share = item.partition("@")
        try:
            ah = parse(size, CAPACITY)
            charge = parse(share, FRACTION) if at else 1.0
        except QuantityError as problem:
            raise BalanceError(f"group {place}: {problem}") from problem
        if ah <= 0.0 or ah > 1e5:
            raise BalanceError(f"group {place}: {size.strip()[:40]}; accepted: over 0 Ah")
        if not 0.0 <= charge <= 1.0:
            raise BalanceError(f"group {place}: {share.strip()[:40]}; accepted: 0 % to 100 %")
        found.append((ah, charge))
    if len(found) > MOST_GROUPS:
        raise BalanceError(f"{len(found)} groups; accepted: up to {MOST_GROUPS}")
    return found


def bleed_of(text: str) -> Bleed:
    """A bleed from ``60mA@4.15V``; raises BalanceError."""
    amps, at, volts = text.partition("@")
    if not at:
        raise BalanceError(f"bleed: “{text[:40]}” has no volts; accepted: such as 60mA@4.15V")
    try:
        flow, from_v = parse(amps, CURRENT), parse(volts, VOLTAGE)
    except QuantityError as problem:
        raise BalanceError(f"bleed: {problem}") from problem
    if not 0.0 < flow <= 100.0 or not 0.0 < from_v <= 6.0:
        raise BalanceError(
            f"bleed: “{text[:40]}”; accepted: over 0 A, and over 0 up to 6 V a group"
        )
    return Bleed(from_v, amps=flow)


def active_of(text: str) -> Active:
    """A mover from ``1A``; raises BalanceError."""
    try:
        amps = parse(text, CURRENT)
    except QuantityError as problem:
        raise BalanceError(f"active: {problem}") from problem
    if not 0.0 < amps <= 100.0:
        raise BalanceError(f"active: “{text[:40]}”; accepted: over 0, up to 100 A")
    return Active(amps)


def balance_records(case: BalanceCase) -> dict[str, Any]:
    """What groups give, and what evening out takes, as plain records."""
    groups, share = case.groups, case.share
    charge = share * groups.ah
    stand = vessels(groups.ah, charge)
    moved, arrives = 0.0, 1.0
    if case.active is not None:
        hours = stand.even_ah / case.setting.load_a
        moved, arrives = case.active.amps * hours, case.active.efficiency
    found = usable_as(groups.ah, charge, case.way, moved, arrives)
    excess = excess_ah(groups.ah, charge)
    flow, volts = 0.0, case.setting.hold_v / len(share)
    if case.bleed is not None:
        volts = case.bleed.from_v
        flow = case.bleed.at(volts)
    hours_even = hours_to_even(excess, flow, groups.leak_a)
    if not case.begins and hours_even:
        hours_even = None
    heat = len(share) * volts * flow
    if case.active is not None:
        room = groups.ah - charge
        hours_even = float(np.maximum(room.mean() - room, 0.0).sum()) / case.active.amps
        heat = case.active.amps * volts * (1.0 - case.active.efficiency)
    records: dict[str, Any] = {
        "usable_ah": round(found.usable_ah, 6),
        "lost_top_ah": [round(item, 6) for item in found.lost_top_ah.tolist()],
        "lost_bottom_ah": [round(item, 6) for item in found.lost_bottom_ah.tolist()],
        "cause": stand.cause,
        "hours_to_even": None if hours_even is None else round(hours_even, 5),
        "heat_w": round(heat, 5),
        "way": case.way,
        "usable_now_ah": round(stand.usable_ah, 6),
        "usable_even_ah": round(stand.even_ah, 6),
        "first_full": stand.first_full, "first_empty": stand.first_empty,
    }  # fmt: skip
    if case.count:
        _add_cycles(records, case)
    return records


def _add_cycles(records: dict[str, Any], case: BalanceCase) -> None:
    """What the cycles came to: what they give, and where groups stand after the last."""
    begun = np.zeros(len(case.share)) if case.way == "bottom" else case.share
    setting = case.setting
    if case.way == "bottom":
        setting = replace(setting, over_v=setting.hold_v / len(begun))
    having = Equipment(case.bleed, case.active, grain=GRAIN)
    ran = cycles(case.groups, begun, 25.0, setting, having, case.count)
    last, ah = ran[-1], case.groups.ah
    records["usable_ah"] = round(last.usable_ah, 6)
    records["lost_top_ah"] = np.round(np.maximum(ah * (1.0 - last.full), 0.0), 6).tolist()
    records["lost_bottom_ah"] = np.round(np.maximum(ah * last.empty, 0.0), 6).tolist()
    records["cycles"] = [
        {"usable_ah": round(cycle.usable_ah, 6), "apart_percent": round(100.0 * cycle.apart, 4),
         "charge_h": round(cycle.charge_h, 4), "ended_by": cycle.ended_by,
         "bled_wh": round(cycle.bleed_wh, 5)}
        for cycle in ran
    ]  # fmt: skip


def run_balance(arguments: Sequence[str]) -> int:
    """Print what groups give and what evening out takes; 0 when done, 2 where something is bad."""
    parser = _parser()
    chosen = parser.parse_args(arguments)
    if chosen.batch:
        return _batch()
    if (chosen.file is None) == (chosen.groups is None):
        parser.error("a project or --groups is wanted, or --batch")
    seen = None
    if chosen.file is not None:
        seen = read_evaluation("lumvak balance", chosen.file, chosen.catalogue)
        if seen is None:
            return 2
    way = next((name for name in ("top", "bottom", "none") if getattr(chosen, name)), None)
    try:
        case = _case(seen, chosen.groups, chosen.bleed, chosen.active, way, chosen.cycles)
        found = balance_records(case)
    except BalanceError as problem:
        print(f"lumvak balance: {problem}", file=sys.stderr)
        return 2
    print(json_text(found) if chosen.json else _text(case, found))
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="lumvak balance",
        description="What groups give, what is lost in each and why, and what evening out takes.",
    )
    parser.add_argument("file", nargs="?", type=Path, help="a project file (.lumvak.json)")
    parser.add_argument("--groups", help="Ah and charge of each: 15.0Ah@80%%,14.6Ah@78%%,…")
    parser.add_argument("--bleed", help="what a group is bled by and from where: 60mA@4.15V")
    parser.add_argument("--cycles", type=int, default=0, help="simulate so many cycles")
    how = parser.add_mutually_exclusive_group()
    how.add_argument("--top", action="store_true", help="evened out at the top")
    how.add_argument("--bottom", action="store_true", help="evened out at the bottom")
    how.add_argument("--active", help="charge is moved: 1A")
    how.add_argument("--none", action="store_true", help="as they stand, which is usual")
    usual_options(parser, batch=True)
    return parser


def _case(
    seen: Evaluation | None, groups: str | None, bleed: str | None, active: str | None,
    way: str | None, count: int,
) -> BalanceCase:  # fmt: skip
    """What is asked, of a project or of groups alone; raises BalanceError."""
    if not 0 <= count <= MOST_CYCLES:
        raise BalanceError(f"cycles: {count}; accepted: 0 to {MOST_CYCLES}")
    mover = None if active is None else active_of(active)
    asked: Way = "active" if mover is not None else way or "none"  # type: ignore[assignment]
    own = None if bleed is None else bleed_of(bleed)
    if seen is None:
        assert groups is not None
        return _alone(groups_of(groups), own, mover, asked, count)
    topic = seen.charging
    if own is None and mover is None and way != "none":
        own, mover = topic.evening.bleed, topic.evening.active
    if asked in ("bottom", "active"):
        own = None
    begins = own is not topic.evening.bleed or topic.evening.begins
    return BalanceCase(
        topic.now.groups, topic.now.share, own, mover, asked, count, cycle_setting(seen), begins
    )


def _alone(
    given: list[tuple[float, float]], bleed: Bleed | None, mover: Active | None, way: Way,
    count: int,
) -> BalanceCase:  # fmt: skip
    """Groups without a project: of a sample cell, used in five hours each way."""
    catalogue = _catalogue()
    at_v = 4.0 if bleed is None else bleed.from_v
    cell = catalogue.cells[next(name for volts, name in BY_VOLTS if at_v >= volts)]
    chemistry: Chemistry = catalogue.chemistry_of(cell)
    ah, share = (np.array(column) for column in zip(*given, strict=True))
    behaviour = behaviour_of(cell, chemistry)
    groups = Groups(behaviour, ah, OHM_AH / ah, np.zeros(len(ah)))
    amps = float(ah.mean()) / HOURS
    full_v = cell.voltage_full_v
    setting = CycleSetting(
        amps, full_v * len(ah), 0.1 * amps, full_v + 0.05, full_v - UNDER_CEILING_V / 2.0, 0.0,
        amps, cell.voltage_empty_v, 0.0,
    )  # fmt: skip
    if mover is not None or way == "bottom":
        bleed = None
    return BalanceCase(groups, share, bleed, mover, way, count, setting)


@lru_cache(maxsize=1)
def _catalogue() -> Catalogue:
    """The parts at hand; the same for all cases of a batch."""
    return load_catalogue()[0]


def _batch() -> int:
    """A line of JSON each: ``groups``, and ``bleed``, ``cycles``, ``way`` or ``active``."""

    def one(given: Any) -> dict[str, Any]:
        way = given.get("way")
        if way not in (None, "none", "top", "bottom", "active"):
            raise BalanceError(f"way: “{str(way)[:40]}”; accepted: none, top, bottom, active")
        active = given.get("active", "1A" if way == "active" else None)
        groups = given["groups"]
        if not isinstance(groups, str):
            groups = ",".join(f"{float(item['ah'])}Ah@{100.0 * float(item['share'])}%"
                              for item in groups)  # fmt: skip
        count = int(given.get("cycles", 0))
        return balance_records(_case(None, groups, given.get("bleed"), active, way, count))

    return run_batch(
        one, '{"groups": "15.0Ah@80%,…", "bleed": "60mA@4.15V", "way": "top", "cycles": 0}'
    )


def _text(case: BalanceCase, found: dict[str, Any]) -> str:
    rows = [
        (str(place + 1), say(float(case.groups.ah[place]), "Ah"),
         say(float(case.share[place]), "%"), say(top, "Ah"), say(bottom, "Ah"))
        for place, (top, bottom) in enumerate(
            zip(found["lost_top_ah"], found["lost_bottom_ah"], strict=True)
        )
    ]  # fmt: skip
    why = {
        "none": "Nothing is lost that counts.",
        "out-of-step": "They are out of step: evening them out gives it back.",
        "small": "One is small: evening out gives nothing back.",
        "both": "They are out of step, and one is small.",
    }
    even = found["hours_to_even"]
    lines = [
        table(("group", "size", "charge", "lost at the top", "lost at the bottom"), rows),
        f"{say(found['usable_ah'], 'Ah')} can be used; {say(found['usable_even_ah'], 'Ah')} once "
        f"even. {why[found['cause']]}",
    ]  # fmt: skip
    if case.bleed is not None or case.active is not None:
        lines.append(
            "It never catches up." if even is None
            else "They are even." if even == 0.0
            else f"{say_hours(even)} at the top until even, {say(found['heat_w'], 'W')} of heat."
        )  # fmt: skip
    for place, cycle in enumerate(found.get("cycles", ()), 1):
        lines.append(
            f"cycle {place}: {say(cycle['usable_ah'], 'Ah')}, "
            f"{say(cycle['apart_percent'] / 100.0, '%')} apart at the top"
        )
    return "\n".join(lines)
