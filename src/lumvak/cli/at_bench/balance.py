"""``lumvak balance``: what groups give, what is lost in each and why, what evening out takes."""

from __future__ import annotations

import argparse
import re
from functools import cached_property, lru_cache
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.cli.batch import run_batch
from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of
from lumvak.cli.spelled import say, say_hours
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.core.balancing.balancing import GRAIN, Balancing, balancing_of
from lumvak.core.balancing.cycles import CycleSetting, cycles
from lumvak.core.balancing.groups_run import Active, Array, Bleed, Groups
from lumvak.core.balancing.imbalance import Way, imbalance, usable_as
from lumvak.core.balancing.means import UNDER_CEILING_V, Means
from lumvak.core.balancing.phase import Equipment
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Chemistry
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.cells.recovery import recovery_v
from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import Refused, spoken
from lumvak.core.units import (
    CAPACITY,
    CURRENT,
    DAYS,
    FRACTION,
    HOURS,
    VOLTAGE,
    Kind,
    QuantityError,
    parse,
)
from lumvak.files.catalogue_file import load_catalogue

MOST_GROUPS, MOST_CYCLES = 400, 1000
# Groups that are given alone are cells of this sort, by the volts that they bleed at.
BY_VOLTS = ((3.8, "ostrel-21-48"), (2.9, "fennimor-b-105"), (0.0, "rondel-b-20"))
# They are charged and emptied in so many hours, with 50 mΩ·Ah.
USED_H, OHM_AH = 5.0, 0.05


class BalanceError(Refused):
    """Groups, a bleed or a mover that cannot be meant so."""


class BalanceCase(Struct, frozen=True, eq=False, dict=True):
    """Groups with what evens them out; ``use`` is how they are used from charge to charge.

    ``habit`` is whether anybody said so; where not, ``use`` serves cycles alone.
    """

    groups: Groups
    share: Array
    means: Means
    way: Way
    count: int
    use: CycleSetting
    full_v: float
    habit: bool = True

    @cached_property
    def balancing(self) -> Balancing:
        """Whether and when they come together; followed once."""
        use = self.use if self.habit else None
        return balancing_of(self.means, self.groups, self.share, use, self.full_v)


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
    groups, share, active = case.groups, case.share, case.means.active
    charge = share * groups.ah
    stand = imbalance(groups.ah, charge)
    moved, arrives = 0.0, 1.0
    if active is not None:
        moved, arrives = active.amps * stand.even_ah / case.use.load_a, active.efficiency
    found = usable_as(groups.ah, charge, case.way, moved, arrives)
    balancing = case.balancing
    hours = None if balancing.hours is None else round(balancing.hours, 5)
    records: dict[str, Any] = {
        "usable_ah": round(found.usable_ah, 6),
        "lost_top_ah": [round(item, 6) for item in found.lost_top_ah.tolist()],
        "lost_bottom_ah": [round(item, 6) for item in found.lost_bottom_ah.tolist()],
        "cause": stand.cause,
        "hours_to_even": hours,
        "evens_out": _evens_out(balancing),
        "heat_w": round(balancing.heat_w, 5),
        "way": case.way,
        "usable_now_ah": round(stand.usable_ah, 6),
        "usable_even_ah": round(stand.even_ah, 6),
        "first_full": stand.first_full,
        "first_empty": stand.first_empty,
        "groups": [
            {
                "group": place + 1,
                "ah": round(float(groups.ah[place]), 6),
                "charge_share": round(float(share[place]), 6),
                "lost_top_ah": round(top, 6),
                "lost_bottom_ah": round(bottom, 6),
            }
            for place, (top, bottom) in enumerate(
                zip(found.lost_top_ah.tolist(), found.lost_bottom_ah.tolist(), strict=True)
            )
        ],
    }
    if case.count:
        _add_cycles(records, case)
    return records


def _evens_out(balancing: Balancing) -> dict[str, Any]:
    """Whether groups come together: ``hours`` at the top and ``days``, or ``never``."""
    if balancing.hours is None:
        return {
            "never": True,
            "because": balancing.because,
            "would": balancing.would,
            "stop": balancing.stop,
        }
    days = None if balancing.days is None else round(balancing.days, 4)
    return {
        "hours": round(balancing.hours, 5),
        "days": days,
        "left_share": round(balancing.left_share, 5),
    }


def _add_cycles(records: dict[str, Any], case: BalanceCase) -> None:
    """What the cycles came to: what they give, and where groups stand after the last."""
    begun = np.zeros(len(case.share)) if case.way == "bottom" else case.share
    setting = case.use
    if case.way == "bottom":
        setting = replace(setting, over_v=setting.hold_v / len(begun))
    having = Equipment(case.means.bleed, case.means.active, grain=GRAIN)
    ran = cycles(case.groups, begun, 25.0, setting, having, case.count)
    last, ah = ran[-1], case.groups.ah
    records["usable_ah"] = round(last.usable_ah, 6)
    records["lost_top_ah"] = np.round(np.maximum(ah * (1.0 - last.full), 0.0), 6).tolist()
    records["lost_bottom_ah"] = np.round(np.maximum(ah * last.empty, 0.0), 6).tolist()
    records["cycles"] = [
        {
            "usable_ah": round(cycle.usable_ah, 6),
            "apart_percent": round(100.0 * cycle.apart, 4),
            "charge_h": round(cycle.charge_h, 4),
            "ended_by": cycle.ended_by,
            "bled_wh": round(cycle.bleed_wh, 5),
            "flat": list(cycle.flat),
        }
        for cycle in ran
    ]


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print what groups give and what evening out takes; 0 when done, 2 where something is bad."""
    if chosen.batch:
        return _batch()
    if (chosen.file is None) == (chosen.groups is None):
        refuse("a project or --groups is wanted, or --batch")
    seen = None
    if chosen.file is not None:
        seen = evaluation_of(chosen)
        if seen is None:
            return 2
    asked = BalanceAsked(
        chosen.bleed,
        chosen.active,
        way=next((name for name in ("top", "bottom", "none") if getattr(chosen, name)), None),
        cycles=chosen.cycles,
        every=chosen.every,
        stays=chosen.stays,
        leak=tuple(chosen.leak or ()),
    )
    try:
        case = _case(seen, chosen.groups, asked)
        found = balance_records(case)
    except BalanceError as problem:
        complain("lumvak balance", problem)
        return 2
    tell(chosen, found, lambda: _text(case, found))
    return 0


class BalanceAsked(Struct, frozen=True):
    """What is asked of groups, as it was typed."""

    bleed: str | None = None
    active: str | None = None
    way: str | None = None
    cycles: int = 0
    every: str | None = None
    stays: str | None = None
    leak: tuple[str, ...] = ()


def _whole(text: str) -> bool:
    """Whether a text is a number of a group."""
    return text.strip().isascii() and text.strip().isdigit() and len(text.strip()) < 7


def _case(evaluation: Evaluation | None, groups: str | None, asked: BalanceAsked) -> BalanceCase:
    """What is asked, of a project or of groups alone; raises BalanceError."""
    if not 0 <= asked.cycles <= MOST_CYCLES:
        raise BalanceError(f"cycles: {asked.cycles}; accepted: 0 to {MOST_CYCLES}")
    mover = None if asked.active is None else active_of(asked.active)
    way: Way = "active" if mover is not None else asked.way or "none"  # type: ignore[assignment]
    own = None if asked.bleed is None else bleed_of(asked.bleed)
    means = Means(
        own,
        mover,
        "an active balancer" if mover else "the bleed" if own else "nothing",
        origin="typed",
    )
    if evaluation is None:
        assert groups is not None
        case = _alone(groups_of(groups), means, way, asked.cycles)
    else:
        topic = evaluation.charging
        if own is None and mover is None and asked.way != "none":
            means = topic.means
        case = BalanceCase(
            topic.now.groups,
            topic.now.share,
            means=means,
            way=way,
            count=asked.cycles,
            use=topic.use,
            full_v=topic.setting.ceiling_v,
        )
    if way == "bottom" or (way == "active" and means.active is not None):
        case = replace(case, means=replace(case.means, bleed=None, burns=""))
    return _as_used(case, asked)


def _as_used(case: BalanceCase, asked: BalanceAsked) -> BalanceCase:
    """The case with the habits that were typed; raises BalanceError."""
    use, habit = case.use, case.habit
    try:
        if asked.stays is not None:
            use, habit = replace(use, stays_h=_amount(asked.stays, HOURS, "stays", 1000.0)), True
        if asked.every is not None:
            # From one charge to the next; what it is used for lies within.
            every_h = 24.0 * _amount(asked.every, DAYS, "every", 365.0)
            busy_h = use.stays_h + float(case.groups.ah.min()) * (1.0 / use.load_a + 1.0 / use.amps)
            use, habit = replace(use, between_h=max(every_h - busy_h, 0.0)), True
        leak = case.groups.leak_a.copy()
        for item in asked.leak:
            place, colon, amount = item.partition(":")
            if not colon or not _whole(place):
                raise BalanceError(f"leak: “{item[:40]}”; accepted: such as 4:5mA")
            at = int(place)
            if not 1 <= at <= len(leak):
                raise BalanceError(f"leak: group {at}; accepted: 1 to {len(leak)}")
            leak[at - 1] = _amount(amount, CURRENT, "leak", 10.0)
    except QuantityError as problem:
        raise BalanceError(str(problem)) from problem
    return replace(case, groups=replace(case.groups, leak_a=leak), use=use, habit=habit)


def _amount(text: str, kind: Kind, name: str, most: float) -> float:
    """An amount of a ``kind`` from 0 to ``most``; raises BalanceError and QuantityError."""
    found = parse(text, kind)
    if not 0.0 <= found <= most:
        raise BalanceError(f"{name}: “{text[:40]}”; accepted: 0 to {most:g}")
    return found


def _alone(given: list[tuple[float, float]], means: Means, way: Way, count: int) -> BalanceCase:
    """Groups without a project: of a sample cell, used in five hours each way."""
    catalogue = _catalogue()
    at_v = 4.0 if means.bleed is None else means.bleed.from_v
    cell = catalogue.cells[next(name for volts, name in BY_VOLTS if at_v >= volts)]
    chemistry: Chemistry = catalogue.chemistry_of(cell)
    ah, share = (np.array(column) for column in zip(*given, strict=True))
    behaviour = behaviour_of(cell, chemistry)
    groups = Groups(behaviour, ah, OHM_AH / ah, np.zeros(len(ah)))
    amps = float(ah.mean()) / USED_H
    full_v = cell.voltage_full_v
    use = CycleSetting(
        amps,
        full_v * len(ah),
        end_a=0.1 * amps,
        over_v=full_v + 0.05,
        back_v=full_v - UNDER_CEILING_V / 2.0,
        stays_h=0.0,
        load_a=amps,
        floor_v=cell.voltage_empty_v,
        between_h=0.0,
        dead_v=recovery_v(cell, chemistry.family),
    )
    return BalanceCase(
        groups, share, means=means, way=way, count=count, use=use, full_v=full_v, habit=False
    )


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
            groups = ",".join(
                f"{float(item['ah'])}Ah@{100.0 * float(item['share'])}%" for item in groups
            )
        leak = given.get("leak", ())
        asked = BalanceAsked(
            given.get("bleed"),
            active,
            way=way,
            cycles=int(given.get("cycles", 0)),
            every=given.get("every"),
            stays=given.get("stays"),
            leak=(leak,) if isinstance(leak, str) else tuple(leak),
        )
        return balance_records(_case(None, groups, asked))

    return run_batch(
        one,
        '{"groups": "15.0Ah@80%,…", "bleed": "60mA@4.15V", "way": "top", "cycles": 0, '
        '"every": "3d", "stays": "2h", "leak": ["1:5mA"]}',
    )


def _text(case: BalanceCase, found: dict[str, Any]) -> str:
    rows = [
        (
            str(place + 1),
            say(float(case.groups.ah[place]), "Ah"),
            say(float(case.share[place]), "%"),
            say(top, "Ah"),
            say(bottom, "Ah"),
        )
        for place, (top, bottom) in enumerate(
            zip(found["lost_top_ah"], found["lost_bottom_ah"], strict=True)
        )
    ]
    why = {
        "none": "Nothing is lost that counts.",
        "out-of-step": "They are out of balance: balancing gives it back.",
        "small": "One is small: balancing gives nothing back.",
        "both": "They are out of balance, and one is small.",
    }
    balancing = case.balancing
    lines = [
        table(("group", "size", "charge", "lost at the top", "lost at the bottom"), rows),
        f"{say(found['usable_ah'], 'Ah')} can be used; {say(found['usable_even_ah'], 'Ah')} once "
        f"even. {why[found['cause']]}",
    ]
    if balancing.works:
        lines.append(_said(balancing))
    for place, cycle in enumerate(found.get("cycles", ()), 1):
        lines.append(
            f"cycle {place}: {say(cycle['usable_ah'], 'Ah')}, "
            f"{say(cycle['apart_percent'] / 100.0, '%')} apart at the top"
        )
        if cycle["flat"]:
            lines.append(
                f"Stop: group {cycle['flat'][0]} is emptied before the next charge: leave it."
            )
    return "\n".join(lines)


def _said(balancing: Balancing) -> str:
    """Whether and when the groups come together, in words."""
    if balancing.hours is None:
        begins = "Stop" if balancing.stop else "Never balanced"
        return f"{begins}: {spoken(balancing.because)}. {spoken(balancing.would)}"
    if balancing.hours == 0.0:
        return "They are balanced."
    days = "" if balancing.days is None else f", {say(balancing.days, 'd')} as it is used"
    return (
        f"{say_hours(balancing.hours)} at the top until balanced{days}, "
        f"{say(balancing.heat_w, 'W')} of heat."
    )
