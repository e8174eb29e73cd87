"""Random parts for a pack, and what the evaluation says of each: held against their windows."""

from __future__ import annotations

import random
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.catalogue.boards import BoardStage
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.document.edit import with_values
from lumvak.core.document.power import NONE
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Evaluation
from lumvak.core.record import Unfit
from lumvak.core.specification.examples import missed_by
from lumvak.core.specification.joints import joint_asked
from lumvak.core.specification.topic import specification_in_hand

ID = "of-a-draw"
CELL_FIGURES = (
    "capacity_typical_ah", "capacity_min_ah", "continuous_a", "pulse_a", "resistance_dc_ohm",
)  # fmt: skip
FUSES = ("load", "voltage", "breaking", "melts", "never", "wire")


class Kind(Struct, frozen=True):
    """A kind of part: its parts in the catalogue, where one is picked, and what speaks against it.

    ``jitters`` are the figures that a random one has otherwise.
    """

    parts: str
    path: str
    codes: tuple[str, ...]
    jitters: tuple[str, ...]


KINDS: dict[str, Kind] = {
    "bms": Kind(
        "boards",
        "protection.board",
        ("board-", "setting-beyond"),
        ("continuous_a", "charge_a", "over_voltage_v", "under_voltage_v", "resistance_ohm"),
    ),
    "fuse": Kind(
        "fuses",
        "power.fuse",
        tuple(f"fuse-{code}" for code in FUSES),
        ("rating_a", "voltage_dc_v", "breaking_a"),
    ),
    "charge-fuse": Kind(
        "fuses",
        "power.charge_fuse",
        tuple(f"charge-fuse-{code}" for code in FUSES),
        ("rating_a", "voltage_dc_v", "breaking_a"),
    ),
    "connector": Kind(
        "connectors",
        "power.connector",
        ("connector-",),
        ("continuous_a", "short_a", "voltage_dc_v"),
    ),
    "switch": Kind(
        "switches",
        "power.switch",
        ("switch-",),
        ("continuous_a", "short_a", "voltage_dc_v", "breaking_a"),
    ),
    "leads": Kind(
        "wires",
        "leads.wire",
        ("leads-limit", "fuse-wire", "fuse-never"),
        ("area_mm2",),
    ),
    "charge-leads": Kind(
        "wires",
        "charge_leads.wire",
        ("charge-leads-limit", "charge-fuse-wire", "charge-fuse-never"),
        ("area_mm2",),
    ),
    "cell": Kind("cells", "pack.cell", ("need-",), ()),
    "series": Kind(
        "conductors",
        "joints.series.part",
        ("series-joint-",),
        ("thickness_mm", "width_mm"),
    ),
    "group": Kind(
        "conductors",
        "joints.group.part",
        ("group-joint-",),
        ("thickness_mm", "width_mm"),
    ),
    "charger": Kind("chargers", "charging.charger", ("charger-",), ()),
}


def pinned(project: Project, evaluation: Evaluation) -> Project:
    """A project with all that is in force picked, so that one part can be changed alone."""
    choice, power = evaluation.sized.choice, evaluation.power
    changes: dict[str, Any] = {
        "pack.cell": choice.cell.id,
        "pack.series": choice.series,
        "pack.parallel": choice.parallel,
        "leads.area_mm2": evaluation.sized.wire.area.number,
        "charge_leads.area_mm2": power.charge_wire.area.number,
        "need.charger_current_a": power.charge_current.number,
        "protection.board": None if power.made is None else power.made.id,
    }
    for name, place in (
        ("fuse", power.fuse),
        ("charge_fuse", power.charge_fuse),
        ("connector", power.connector),
    ):
        changes[f"power.{name}"] = NONE if place.part is None else place.part.id
    for role, joint in (
        ("group", evaluation.laid_out.group),
        ("series", evaluation.laid_out.series),
    ):
        chosen = joint.chosen
        if chosen.part.id not in evaluation.sized.parts.conductors:
            continue
        changes |= {
            f"joints.{role}.part": chosen.part.id,
            f"joints.{role}.layers": chosen.layers,
            f"joints.{role}.strips": chosen.strips,
        }
    return with_values(project, changes)


def random_part(kind: str, evaluation: Evaluation, draw: random.Random) -> Any:
    """A part of the catalogue with some of its figures otherwise, near what is asked as a rule."""
    wanted = KINDS[kind]
    catalogue = evaluation.sized.parts
    all_parts = list(getattr(catalogue, wanted.parts).values())
    setting = evaluation.sized.boards.setting
    if kind == "bms" and draw.random() < 0.9:
        own = [it for it in all_parts if (it.series, it.family) == (setting.series, setting.family)]
        all_parts = own or all_parts
    if kind == "charger":
        full = evaluation.sized.pack.full.number
        part = draw.choice(sorted(all_parts, key=lambda it: abs(it.volts - full))[:4])
        volts = full * draw.choice((1.0, 1.0, draw.uniform(0.9, 1.02)))
        return replace(part, id=ID, volts=volts, amps=part.amps * draw.uniform(0.3, 2.0))
    if kind == "cell":
        return _random_cell(evaluation.sized.choice.cell, draw)
    if kind in ("series", "group"):
        return _random_conductor(all_parts, kind, evaluation, draw)
    load = evaluation.sized.pack.current.number
    near = sorted(all_parts, key=lambda it: abs(_size(it) - draw.uniform(0.5, 4.0) * load))
    part = draw.choice(near[: max(3, len(near) // 4)])
    for name in wanted.jitters:
        if draw.random() < 0.6:
            low, high = (0.97, 1.04) if name.endswith("voltage_v") else (0.6, 1.7)
            part = _with(part, name, getattr(part, name) * draw.uniform(low, high))
    return replace(part, id=ID)


def _random_cell(cell: Cell, draw: random.Random) -> Cell:
    """A cell like another, some of its figures otherwise."""
    times = {name: draw.uniform(0.6, 1.7) if draw.random() < 0.5 else 1.0 for name in CELL_FIGURES}
    times["capacity_min_ah"] = times["capacity_typical_ah"]
    changes = {
        name: getattr(cell, name) * share
        for name, share in times.items()
        if getattr(cell, name) is not None
    }
    if cell.pulse_a is not None:
        changes["pulse_a"] = max(changes["pulse_a"], changes["continuous_a"])
    plain = replace(cell, id=ID, curves=(), pulses=(), resistance_ac_ohm=None)
    made = replace(plain, **changes)
    try:
        made.check()
    except Unfit:
        return plain
    return made


def _random_conductor(
    at_hand: list[Conductor], role: str, evaluation: Evaluation, draw: random.Random
) -> Conductor:
    """A conductor at hand of other sides, more often than not one that can be joined here."""
    joins = joint_asked(role, evaluation).result.chosen.part.join
    able = [it for it in at_hand if it.join == joins]
    part = draw.choice(able if able and draw.random() < 0.8 else at_hand)
    sides = {
        name: getattr(part, name) * draw.uniform(0.4, 1.7)
        for name in KINDS[role].jitters
        if draw.random() < 0.7 and (name != "width_mm" or part.form != "sheet")
    }
    return replace(part, id=ID, **sides)


def _size(part: Any) -> float:
    for name in ("continuous_a", "rating_a", "area_mm2"):
        if hasattr(part, name):
            return float(getattr(part, name)) * (6.0 if name == "area_mm2" else 1.0)
    raise AssertionError(part)


def _with(part: Any, name: str, value: float) -> Any:
    changes: dict[str, Any] = {name: value}
    if name == "continuous_a" and hasattr(part, "stages"):
        share = value / part.continuous_a
        changes["stages"] = tuple(
            BoardStage(current_a=it.current_a * share, delay_s=it.delay_s) for it in part.stages
        )
    if name == "area_mm2":
        changes["outer_mm"] = part.outer_mm * (value / part.area_mm2) ** 0.5
    made = replace(part, **changes)
    try:
        made.check()
    except Exception:
        return part
    return made


def picked(project: Project, kind: str, part: Any) -> Project:
    """The project with a part of its own picked."""
    wanted = KINDS[kind]
    if kind == "charger":
        return with_values(project, {"charging.chargers": (part,), wanted.path: ID})
    own = replace(project.parts, **{wanted.parts: (part,)})
    changes: dict[str, Any] = {wanted.path: ID}
    if wanted.parts == "wires":
        changes[wanted.path.replace("wire", "area_mm2")] = None
    return replace(with_values(project, changes), parts=own)


def against(evaluation: Evaluation, kind: str) -> tuple[str, ...]:
    """Codes of what the evaluation has against the part of a kind that is in force."""
    codes = KINDS[kind].codes
    return tuple(
        item.code
        for item in evaluation.findings
        if item.severity != "note" and item.code.startswith(codes)
    )


def missed(kind: str, part: Any, evaluation: Evaluation) -> tuple[str, ...]:
    """Fields in which a part lies outside its windows."""
    told = missed_by(specification_in_hand(evaluation).of(kind), evaluation)
    assert told is not None
    return told(part)


def in_force(evaluation: Evaluation, kind: str) -> Any:
    """The part of a kind that is in force; ``None`` where there is none."""
    power = evaluation.power
    return {
        "bms": power.made,
        "fuse": power.fuse.part,
        "charge-fuse": power.charge_fuse.part,
        "connector": power.connector.part,
        "switch": power.switch.part,
        "series": evaluation.laid_out.series.chosen.part,
        "group": evaluation.laid_out.group.chosen.part,
    }.get(kind)
