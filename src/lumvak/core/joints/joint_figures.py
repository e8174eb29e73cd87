"""One kind of joint judged, and as figures."""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import cached_property
from typing import NamedTuple

from msgspec import Struct

from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.cells.pack_heat import FILM_W_PER_M2_K
from lumvak.core.clearance.widest import Widths
from lumvak.core.conductors.strip_and_wire import Cooling, peak_factor, strip_time_constant_s
from lumvak.core.document.joints import Joints
from lumvak.core.document.pack import Enclosure
from lumvak.core.document.power import AS_SPECIFIED_ID, School
from lumvak.core.figures.figure import AS_SPECIFIED, Figure, Rule, sheet, typed
from lumvak.core.joints.candidates import (
    ROLE_NOUNS,
    SCHOOL_NAMES,
    Candidate,
    Limited,
    Role,
    Setting,
    judged,
    loaded,
)
from lumvak.core.joints.piece_sections import joining_of
from lumvak.core.joints.proposal import asked_of, conductor_as_specified, in_force, recommended
from lumvak.core.said import Text, capital, digits, phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
PART = Rule("joints.{}.part", "Conductor", "", "as recommended; none was picked", "methods 10")
LAYING = Rule("{}.{}", "{}", "", "as recommended; nothing was said", "methods 10")
RESISTIVITY = Rule("constant.resistivity.{}", "Resistivity of {}", "nΩ·m", "at 20 °C",
                   "methods 8 [3]")
TIME_CONSTANT_S = Rule("{}.time_constant_s", "Time constant of the strip", "s",
                       "storage ÷ (conduction to the cells + surface)", "methods 9 [4]")
LENGTH_MM = Rule("joints.length_mm", "Between two welds", "mm", "cell width + gap", "methods 10")
DROP_MV = Rule("{}.drop_mv", "Drop", "mV", "current × resistance", "methods 9")
LOSS_W = Rule("{}.loss_w", "Heat in one", "W", "current² × resistance", "methods 9")
TOTAL_LOSS_W = Rule("{}.total_loss_w", "{}", "W", "{}", "methods 9")
LIMIT_A = Rule("{}.limit_a", "{} carry", "A", "by the sizing criterion in force, {}", "methods 9")
JOINED_K_PER_W = Rule("joints.weld_k_per_w", "Heat through a joint on a cell", "K/W",
                      "for {}, on the cautious side; a weld pair has about 30 to 60 K/W",
                      "methods 9")
CELL_W = Rule("{}.cell_w", "Heat into a cell", "W", "{}", "methods 9")
DENSITY_A_PER_MM2 = Rule("{}.density_a_per_mm2", "Current density", "A/mm²",
                         "current ÷ (width × thickness × layers × strips)", "methods 9")
RESISTANCE_OHM = Rule("{}.resistance_ohm", "{}", "ohm",
                      "ρ·L ÷ (width × thickness × layers × strips)", "methods 8 [3]")
CURRENT_A = Rule("{}.current_a", "Current through it", "A", "{}", "methods 10")
PEAK_LIMIT_A = Rule("{}.peak_limit_a", "{} carry for the peak", "A",
                    "limit × {}: √(2 ÷ (1 − exp(−t ÷ τ))), twice the rise allowed for a peak",
                    "methods 9")
LIMIT_BY_A = Rule("{}.limit_{}_a", "Carries by {}", "A", "{}, as a pack current", "methods 9")
RISE_K = Rule("{}.rise_k", "Rise over the cell", "K", "{}", "methods 9 [4]")
# fmt: on

# Thermal resistance of what joins an end of a strip to a cell, in K/W.
WELD_K_PER_W = {"weld": 60.0, "solder": 10.0, "cap": 30.0, "screw": 5.0}
JOINING_WORDS = {"weld": "a weld", "solder": "solder", "cap": "a pressed cap", "screw": "a screw"}


class JointFigures(Struct, frozen=True):
    """One kind of joint as figures; ``limits`` by school, ``limit`` by the one in force."""

    resistance: Figure
    current: Figure
    drop: Figure
    loss: Figure
    rise: Figure
    limits: Mapping[School, Figure]
    limit: Figure
    peak_limit: Figure
    width: Figure
    school: Figure
    every: tuple[Figure, ...]


class JointResult(Struct, frozen=True, eq=False, dict=True):
    """One kind of joint: what was judged, what is recommended and why, and what is in force.

    ``follows`` where the one in force is the one recommended, nothing of it being set; ``over`` is
    how many times more than by even sharing that was asked to carry.
    """

    setting: Setting
    limited: tuple[Limited, ...]
    proposal: Candidate
    reason: Text
    chosen: Candidate
    automatic: bool
    part: Figure
    figures: JointFigures
    follows: bool
    over: float

    @cached_property
    def found(self) -> tuple[Candidate, ...]:
        """All conductors at the load; worked out when they are first looked at."""
        return tuple(loaded(item, self.setting.current_a) for item in self.limited)


def joint_result(
    role: Role,
    joints: Joints,
    conductors: Mapping[str, Conductor],
    limited: tuple[Limited, ...],
    cell: Cell,
    series: Figure,
    parallel: Figure,
    current: Figure,
    peak: Figure,
    peak_duration: Figure,
    strips_at: Figure,
    weld: Figure,
    cooling: Cooling,
    widths: Widths,
    over: float,
    like: Candidate | None,
    gap: Figure,
) -> JointResult:
    """Judge all conductors for a role, propose one and work out the one in force.

    ``limited`` are the ``conductors`` with what they carry; ``series`` and ``parallel`` count the
    pack in hand; ``current`` and ``peak`` are drawn from it. ``strips_at`` is how warm the cells
    are at the end of the duty, ``weld`` the thermal resistance of what joins an end to one, and
    ``cooling`` how a strip is cooled altogether, ``widths`` how wide one may lie. ``over`` is how
    many times more than by even sharing the solved network asks of the busiest piece; ``like`` is
    the conductor that runs on from the other role, where one lies over both, ``gap`` what lies
    between two cells. It is long, for it names every step of the work.
    """
    setting = Setting(
        role=role,
        cell=cell,
        series=int(series.number),
        parallel=int(parallel.number),
        current_a=current.number,
        peak_a=peak.number,
        peak_s=peak_duration.number,
        surroundings_c=strips_at.number,
        cooling=cooling,
        widths=widths,
    )
    strip = joints.series if role == "series" else joints.group
    best, reason = recommended(limited, setting, joints, over)
    made, by_hand = None, strip.part == AS_SPECIFIED_ID
    if by_hand or not best.carries(asked_of(setting, over), joints.school):
        made = conductor_as_specified(setting, joints, over)
    if made is not None and by_hand:
        reason = "the thinnest copper that carries the load, still to be bought"
    elif made is not None:
        reason = "nothing at hand carries the load: this is the thinnest that does"
    proposal = made or loaded(best, setting.current_a)
    if like is not None:
        proposal = judged(like.part, like.width_mm, like.layers, 1, setting, joints)
        reason = "the bar of the series connections, which lies over the cells of both groups"
    part = conductors.get(strip.part or "")
    chosen = in_force(strip, part, proposal, setting, joints)
    figures = _joint_figures(
        role,
        joints,
        setting=setting,
        chosen=chosen,
        count=series,
        parallel=parallel,
        drawn=current,
        peak_duration=peak_duration,
        strips_at=strips_at,
        weld=weld,
        gap=gap,
    )
    return JointResult(
        setting,
        limited,
        proposal=proposal,
        reason=reason,
        chosen=chosen,
        automatic=strip.part is None,
        part=PART.said_or(strip.part, chosen.part.id, current, origin="computed", key=role),
        figures=figures,
        follows=chosen is proposal,
        over=over,
    )


def cooling_of(weld: Figure, enclosure: Enclosure) -> Cooling:
    """How strips are cooled: by one face, for the other lies on cells or under a wrap."""
    return Cooling(FILM_W_PER_M2_K[enclosure], 1, weld.number)


def weld_of(joints: Joints, cell: Cell) -> Figure:
    """Thermal resistance in K/W of what joins an end of a strip to a cell (methods 9)."""
    joining = joining_of(joints, cell)
    return JOINED_K_PER_W.said_or(
        joints.weld_k_per_w, WELD_K_PER_W[joining], rule=JOINING_WORDS[joining]
    )


class _StripShape(NamedTuple):
    """A strip: its resistivity, its sides, how many on and beside each other."""

    rho: Figure
    length: Figure
    width: Figure
    thickness: Figure
    layers: Figure
    strips: Figure


def _shape(
    role: Role, joints: Joints, cell: Cell, chosen: Candidate, drawn: Figure, gap: Figure
) -> _StripShape:
    """Resistivity, length, width, thickness, layers and strips of the joint in force."""
    key = f"joints.{role}"
    part, material = chosen.part, chosen.section.material
    data = AS_SPECIFIED if part.id.startswith(AS_SPECIFIED_ID) else part.said
    rho = RESISTIVITY.of(
        material.resistivity_ohm_m * 1e9,
        origin="constant",
        key=part.material.replace(" ", "-"),
        label=part.material,
    )
    thickness = sheet(f"{key}.thickness_mm", "Thickness", part.thickness_mm, "mm", data)
    said = joints.series if role == "series" else joints.group
    width = (
        typed(f"{key}.width_mm", "Width", said.width_mm, "mm")
        if said.width_mm is not None and said.width_mm == chosen.width_mm
        else sheet(f"{key}.width_mm", "Width", chosen.width_mm, "mm", data)
    )
    layers, strips = (
        LAYING.said_or(
            getattr(said, name),
            getattr(chosen, name),
            drawn,
            origin="computed",
            key=(key, name),
            label=label,
        )
        for name, label in (("layers", "Layers"), ("strips", "Strips side by side"))
    )
    pitch = sheet("cell.pitch_mm", "Cell width", cell.pitch_mm, "mm", cell.name)
    length = LENGTH_MM.of(chosen.section.length_mm, pitch, gap)
    return _StripShape(rho, length, width, thickness, layers, strips)


def _school_limits(
    role: Role,
    joints: Joints,
    chosen: Candidate,
    shape: tuple[Figure, ...],
    shared: tuple[Figure, ...],
) -> dict[School, Figure]:
    """What the joint in force carries by each school; ``shared`` is what its share hangs on."""
    key = f"joints.{role}"
    rho, length, width, thickness, layers, strips = shape
    schools: dict[School, tuple[str, Figure]] = {
        "temperature": (
            "current at which it rises by the limit",
            typed("joints.rise_limit_k", "Rise allowed over the cell", joints.rise_limit_k, "K"),
        ),
        "rule": (
            "A/mm² of nickel × √(ρ_nickel ÷ ρ) × section",
            typed("joints.rule_a_per_mm2", "Rule, nickel", joints.rule_a_per_mm2, "A/mm²"),
        ),
        "loss": (
            "drop allowed ÷ resistance",
            typed("joints.loss_mv", "Drop allowed in a connection", joints.loss_mv, "mV"),
        ),
    }
    limits: dict[School, Figure] = {}
    for school, (rule, setting_figure) in schools.items():
        value = chosen.limits_a[school]
        limits[school] = LIMIT_BY_A.of(
            value if math.isfinite(value) else None,
            setting_figure,
            rho,
            width,
            thickness,
            layers,
            strips,
            length,
            *shared,
            key=(key, school),
            label=SCHOOL_NAMES[school],
            rule=rule,
        )
    return limits


class _Aside(NamedTuple):
    """Current density, and the heat into a cell."""

    density: Figure
    into_cell: Figure


def _aside(
    key: str,
    role: Role,
    chosen: Candidate,
    current: Figure,
    loss: Figure,
    parallel: Figure,
    shape: tuple[Figure, ...],
) -> _Aside:
    """What stands beside the three schools: amps per mm2, and the heat into a cell."""
    _, _, width, thickness, layers, strips = shape
    density = DENSITY_A_PER_MM2.of(
        chosen.density_a_per_mm2, current, width, thickness, layers, strips, key=key
    )
    into = CELL_W.of(
        chosen.cell_w(role, parallel.number),
        loss,
        *((parallel,) if role == "series" else ()),
        key=key,
        rule="heat in one connection ÷ cells in parallel: half of it to each side, from both "
        "ends of a "
        "cell"
        if role == "series"
        else "heat in the busiest piece: half of it to each side, from both sides of a cell",
    )
    return _Aside(density, into)


def _joint_figures(
    role: Role,
    joints: Joints,
    setting: Setting,
    chosen: Candidate,
    count: Figure,
    parallel: Figure,
    drawn: Figure,
    peak_duration: Figure,
    strips_at: Figure,
    weld: Figure,
    gap: Figure,
) -> JointFigures:
    """A kind of joint as figures (methods 8 to 10).

    It is long, for it lists figures one after the other, each made from those above it.
    """
    key = f"joints.{role}"
    shape = _shape(role, joints, setting.cell, chosen, drawn, gap)
    rho, length, width, thickness, layers, strips = shape
    part = chosen.part
    around = (strips_at, weld)
    ohm = RESISTANCE_OHM.of(
        chosen.ohm,
        rho,
        length,
        width,
        thickness,
        layers,
        strips,
        key=key,
        label="One series connection" if role == "series" else "Busiest piece of a group strip",
    )
    share = chosen.current_a / drawn.number
    take_off = typed("joints.take_off", "Main lead leaves from", joints.take_off, "")
    current = CURRENT_A.of(
        chosen.current_a,
        drawn,
        *(() if role == "series" else (parallel, take_off)),
        key=key,
        rule="all of the pack current"
        if role == "series"
        else phrase(
            "{} % of the pack current: the cells beyond the main lead", digits(1e2 * share, ".0f")
        ),
    )
    drop = DROP_MV.of(chosen.drop_v * 1e3, current, ohm, key=key)
    loss = LOSS_W.of(chosen.loss_w, current, ohm, key=key)
    total = TOTAL_LOSS_W.of(
        chosen.loss_w * (setting.joints if role == "series" else min(2, setting.joints)),
        loss,
        count,
        key=key,
        label="Heat in all of them" if role == "series" else "Heat at both ends of the pack",
        rule="series connections × heat in one"
        if role == "series"
        else "two end groups × heat in one",
    )
    rise = RISE_K.of(
        chosen.rise_k if math.isfinite(chosen.rise_k) else None,
        current,
        strips,
        rho,
        length,
        width,
        thickness,
        layers,
        *around,
        key=key,
        rule="q ÷ (h·p), free of the cells"
        if part.form == "busbar"
        else "q ÷ (h·p) × (1 − 1 ÷ (cosh(m·L ÷ 2) + R_w·k·A·m·sinh(m·L ÷ 2))), warm resistivity",
    )
    shared = around if role == "series" else (*around, parallel, take_off)
    limits = _school_limits(role, joints, chosen, shape, shared)
    carries = chosen.limits_a[joints.school]
    school_in_force = typed("joints.school", "Sizing criterion", joints.school, "")
    limit = LIMIT_A.of(
        carries if math.isfinite(carries) else None,
        limits[joints.school],
        school_in_force,
        key=key,
        label=capital(ROLE_NOUNS[role]),
        rule=SCHOOL_NAMES[joints.school],
    )
    factor = peak_factor(setting.peak_s, strip_time_constant_s(chosen.section))
    peak = chosen.peak_limits_a[joints.school]
    peak_limit = PEAK_LIMIT_A.of(
        peak if math.isfinite(peak) else None,
        limit,
        peak_duration,
        TIME_CONSTANT_S.of(strip_time_constant_s(chosen.section), origin="constant", key=key),
        key=key,
        label=capital(ROLE_NOUNS[role]),
        rule=digits(factor, ".2f"),
    )
    aside = _aside(
        key, role, chosen=chosen, current=current, loss=loss, parallel=parallel, shape=shape
    )
    every = (ohm, current, drop, loss, total, rise, *limits.values(), limit, peak_limit)
    every = (*every, aside.density, aside.into_cell)
    return JointFigures(
        ohm,
        current,
        drop=drop,
        loss=loss,
        rise=rise,
        limits=limits,
        limit=limit,
        peak_limit=peak_limit,
        width=width,
        school=school_in_force,
        every=every,
    )
