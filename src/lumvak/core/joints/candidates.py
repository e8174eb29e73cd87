"""Group and series joints: geometry, and conductors judged for them by three schools."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from typing import Literal

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.clearance.widest import ANY_WIDTH, Widths
from lumvak.core.conductors.strip_and_wire import (
    FREE,
    MATERIALS,
    ROOM_C,
    Cooling,
    Section,
    free_rise_k,
    rule_current_a,
    strip_ohm,
    strip_rise_k,
    strip_rises_k,
    strip_time_constant_s,
    warm_rise_k,
)
from lumvak.core.document.joints import Joints, Pattern, Strip, TakeOff
from lumvak.core.said import Text, phrase, say
from lumvak.core.time_current import peak_allowance

Array = NDArray[np.float64]
Role = Literal["group", "series"]
# What the sides are covered with: no plates, plates of one metal, or copper with tabs of nickel.
Plates = Literal["", "sheet", "tabs"]
MOST_LAYERS, MOST_BARS = 4, 2
# However many pieces a sheet is cut into, none is narrower.
LEAST_WIDTH_MM = 1.0
FORMS = ("strip", "sheet", "busbar")
SCHOOL_NAMES = {"temperature": "temperature", "rule": "current density", "loss": "loss"}
# What the conductors of a role are.
ROLE_NOUNS: dict[Role, str] = {"series": "series connections", "group": "group strips"}


class Setting(Struct, frozen=True):
    """What a joint must do: the pack it is in and the currents through it."""

    role: Role
    cell: Cell
    series: int
    parallel: int
    current_a: float
    peak_a: float
    peak_s: float
    surroundings_c: float
    cooling: Cooling = FREE
    widths: Widths = ANY_WIDTH

    @property
    def joints(self) -> int:
        """How many joints of this role the pack has."""
        return self.series - 1 if self.role == "series" else self.series

    def bed(self, joints: Joints) -> Bed:
        """What the conductors lie on."""
        return Bed(
            self.cell,
            self.parallel,
            gap_mm=joints.gap_mm,
            welder_limit_mm=joints.welder_limit_mm,
            cooling=self.cooling,
            widths=self.widths,
            plates=plating_of(joints.side_a, joints.side_b),
        )


class Carrying:
    """What a conductor carries by each school, as pack currents in A, for good and for the peak."""

    limits_a: dict[str, float]
    peak_limits_a: dict[str, float]

    def carries(self, setting: Setting, school: str, margin: float = 1.0) -> bool:
        """Whether it carries the continuous current with ``margin``, and the peak."""
        return (
            self.limits_a[school] >= margin * setting.current_a - 1e-9
            and self.peak_limits_a[school] >= setting.peak_a - 1e-9
        )


class Candidate(Struct, Carrying, frozen=True):
    """One conductor in one number of layers, judged; currents are those of the whole pack."""

    part: Conductor
    width_mm: float
    layers: int
    strips: int
    section: Section
    current_a: float
    ohm: float
    drop_v: float
    loss_w: float
    rise_k: float
    limits_a: dict[str, float]
    peak_limits_a: dict[str, float]
    barred: Text

    @property
    def density_a_per_mm2(self) -> float:
        """Current density in A/mm2 at the load."""
        return self.current_a / (self.section.area_m2 * 1e6 * self.strips)

    def cell_w(self, role: Role, parallel: float) -> float:
        """Heat in W that such joints put into a cell between two of them (methods 9).

        ``parallel`` counts the cells of a group.
        """
        return self.loss_w / parallel if role == "series" else self.loss_w

    @property
    def name(self) -> Text:
        """The conductor with its layers and strips in words."""
        return phrase("{}, {}", self.part.said, layers_name(self.layers))


def plating_of(side_a: Pattern, side_b: Pattern) -> Plates:
    """What the sides are covered with."""
    if "sheet" in (side_a, side_b):
        return "sheet"
    return "tabs" if "tabs" in (side_a, side_b) else ""


def layers_name(layers: int) -> Text:
    """``one layer``, ``2 layers``."""
    return "one layer" if layers == 1 else phrase("{} layers", layers)


def current_share(role: Role, parallel: int, take_off: TakeOff, series_strips: int) -> float:
    """Share of the pack current in the busiest piece of a joint's strips, taken together.

    A series joint carries all of it. A group strip collects the cells on the longer side of where
    the main lead leaves the end groups, or of where a series strip leaves (methods 10).
    """
    if role == "series":
        return 1.0
    if parallel == 1:
        return 0.0
    beyond = {"end": parallel - 1, "middle": parallel // 2, "spread": 1}[take_off]
    cluster = math.ceil(parallel / min(series_strips, parallel)) // 2
    return max(beyond, cluster) / parallel


def strip_count(strips_set: int | None, form: str, role: Role, cell: Cell, parallel: int) -> int:
    """Strips side by side: as set, else one a cell across a series joint and one along a group.

    Across flat cells one, for it lies over the posts or tabs of both groups.
    """
    if strips_set is not None:
        return strips_set
    each = role == "series" and form == "strip" and cell.diameter_mm is not None
    return parallel if each else 1


def fitted_width(part: Conductor, role: Role, bed: Bed, strips: int) -> float:
    """Width in mm in which a stock is used: a sheet is cut to what may lie there."""
    if part.form != "sheet":
        return part.width_mm
    if bed.cell.diameter_mm is None:
        return min(part.width_mm, bed.widths.widest_mm(role == "series"))
    pitch = bed.cell.pitch_mm + bed.gap_mm
    cells = bed.parallel / strips if role == "series" else 1
    most = bed.widths.widest_mm(role == "series")
    if role == "series":
        most *= bed.widths.places / strips
    wanted = max(pitch * cells - bed.gap_mm, LEAST_WIDTH_MM)
    fitting = math.floor(min(wanted, most) * 10.0 + 1e-6) / 10.0
    return min(part.width_mm, max(fitting, LEAST_WIDTH_MM))


class Bed(Struct, frozen=True):
    """What conductors lie on, and what they are joined with: cells, gap, room, welder, cooling.

    ``plates`` is what the sides are covered with.
    """

    cell: Cell
    parallel: int
    gap_mm: float
    welder_limit_mm: float
    cooling: Cooling = FREE
    widths: Widths = ANY_WIDTH
    plates: Plates = ""


# In which order conductors are proposed: no plated steel, few layers, by form.
Kind = tuple[bool, int, int]


class Bare(Struct, frozen=True):
    """One conductor in its section, with all that its shape alone makes.

    ``strip_k`` is the rise at 20 degC for one A^2 in one strip between welds, ``own_k`` that of
    the conductor as it is used (a busbar: free of the cells); ``ohm`` is one strip.
    """

    part: Conductor
    width_mm: float
    layers: int
    strips: int
    section: Section
    ohm: float
    strip_k: float
    own_k: float
    tau_s: float
    barred: Text
    kind: Kind


class Allowed(Struct, frozen=True):
    """What a joint lets flow whatever the load, as all its conductors are judged by."""

    share: float
    rise_limit_k: float
    surroundings_c: float
    rule_a_per_mm2: float
    loss_mv: float
    peak_s: float
    allowance: float


class Limited(Struct, Carrying, frozen=True):
    """A bare conductor with what it carries by each school, whatever the load."""

    bare: Bare
    allowed: Allowed
    limits_a: dict[str, float]
    peak_limits_a: dict[str, float]


def allowed_of(
    role: Role, cell: Cell, parallel: int, joints: Joints, surroundings_c: float, peak_s: float
) -> Allowed:
    """The limits of a role, from the builder's joints."""
    strips = strip_count(joints.series.strips, "strip", "series", cell, parallel)
    return Allowed(
        current_share(role, parallel, joints.take_off, strips),
        joints.rise_limit_k,
        surroundings_c=surroundings_c,
        rule_a_per_mm2=joints.rule_a_per_mm2,
        loss_mv=joints.loss_mv,
        peak_s=peak_s,
        allowance=peak_allowance(peak_s),
    )


class Lying(Struct, frozen=True):
    """A conductor as it would lie: its width, its layers, and strips side by side."""

    part: Conductor
    width_mm: float
    layers: int
    strips: int


def _bare(lying: Sequence[Lying], role: Role, bed: Bed) -> tuple[Bare, ...]:
    """What the shapes of conductors make, all at once."""
    sections = [
        Section(
            MATERIALS[item.part.material],
            item.part.thickness_mm,
            item.width_mm,
            item.layers,
            bed.cell.pitch_mm + bed.gap_mm,
            bed.cooling,
        )
        for item in lying
    ]
    rises_k = strip_rises_k(sections, 1.0).tolist()
    return tuple(
        Bare(
            item.part,
            item.width_mm,
            layers=item.layers,
            strips=item.strips,
            section=section,
            ohm=strip_ohm(section),
            strip_k=rise_k,
            own_k=free_rise_k(section, 1.0) if item.part.form == "busbar" else rise_k,
            tau_s=strip_time_constant_s(section),
            barred=_barred(item.part, item.width_mm, item.strips, role, bed),
            kind=(item.part.material == "plated steel", item.layers, FORMS.index(item.part.form)),
        )
        for item, section, rise_k in zip(lying, sections, rises_k, strict=True)
    )


def limited_by(bare: Iterable[Bare], allowed: Allowed) -> tuple[Limited, ...]:
    """What conductors carry under their limits (methods 9)."""
    return tuple(_limited(item, allowed) for item in bare)


def _limited(item: Bare, allowed: Allowed) -> Limited:
    per_strip = allowed.share / item.strips
    if per_strip == 0.0:
        limits = dict.fromkeys(SCHOOL_NAMES, math.inf)
        return Limited(item, allowed, limits, limits)
    per_kelvin = item.section.material.per_kelvin
    warm = 1.0 + per_kelvin * (allowed.surroundings_c + allowed.rise_limit_k - ROOM_C)
    by_rise = math.sqrt(allowed.rise_limit_k / (item.strip_k * warm))
    if item.own_k != item.strip_k:
        by_rise *= math.sqrt(item.strip_k / item.own_k)
    limits = {
        "temperature": by_rise / per_strip,
        "rule": rule_current_a(item.section, allowed.rule_a_per_mm2) / per_strip,
        "loss": allowed.loss_mv * 1e-3 / item.ohm / per_strip,
    }
    factor = math.sqrt(allowed.allowance / -math.expm1(-allowed.peak_s / item.tau_s))
    return Limited(
        item, allowed, limits, {school: limit * factor for school, limit in limits.items()}
    )


def loaded(item: Limited, current_a: float) -> Candidate:
    """A conductor with its limits, at a pack current."""
    bare, allowed = item.bare, item.allowed
    through, ohm = current_a * allowed.share, bare.ohm / bare.strips
    cold = bare.own_k * (through / bare.strips) ** 2
    return Candidate(
        bare.part,
        bare.width_mm,
        layers=bare.layers,
        strips=bare.strips,
        section=bare.section,
        current_a=through,
        ohm=ohm,
        drop_v=through * ohm,
        loss_w=through**2 * ohm,
        rise_k=warm_rise_k(cold, bare.section.material, allowed.surroundings_c),
        limits_a=item.limits_a,
        peak_limits_a=item.peak_limits_a,
        barred=bare.barred,
    )


def judged(
    part: Conductor, width_mm: float, layers: int, strips: int, setting: Setting, joints: Joints
) -> Candidate:
    """Judge one conductor for one role: resistance, drop, loss, rise and the three limits.

    ``joints`` gives the gap, the welder and the limits of the schools. A busbar is taken as free
    of the cells, a strip as held at cell temperature at its welds (methods 9 and 10).
    """
    lying = Lying(part, width_mm, layers, strips)
    (bare,) = _bare((lying,), setting.role, setting.bed(joints))
    allowed = allowed_of(
        setting.role,
        setting.cell,
        setting.parallel,
        joints,
        setting.surroundings_c,
        setting.peak_s,
    )
    return loaded(_limited(bare, allowed), setting.current_a)


def _barred(part: Conductor, width_mm: float, strips: int, role: Role, bed: Bed) -> Text:
    """Why a conductor cannot be used here; empty where it can."""
    posts = bed.cell.format == "prismatic"
    if part.join == "screw" and not posts:
        return "is screwed on; these cells have no posts"
    if posts and part.join != "screw":
        return "is for welding; these cells have screwed posts"
    if part.join == "solder" and bed.cell.format != "pouch":
        return "is soldered; heat goes into the cell"
    if bed.plates and role == "series" and part.form != "sheet":
        return "is no sheet; a plate is cut from one"
    if part.join == "weld" and bed.plates != "tabs":
        hard = part.weld_equivalent_mm or part.thickness_mm
        if hard > bed.welder_limit_mm + 1e-9:
            return phrase(
                "welds like {} of nickel; the welder joins {}",
                say(hard, "mm"),
                say(bed.welder_limit_mm, "mm"),
            )
    return "" if bed.plates and role == "series" else _too_wide(part, width_mm, strips, role, bed)


def _too_wide(part: Conductor, width_mm: float, strips: int, role: Role, bed: Bed) -> Text:
    """Whether a piece would come too near its neighbours; a bar lies over a whole front."""
    most = bed.widths.widest_mm(role == "series")
    across = role == "series" and part.form != "strip" and bed.cell.diameter_mm is not None
    each = width_mm * strips / bed.widths.places if across else width_mm
    if each <= most + 1e-6:
        return ""
    return phrase("is wider than the {} that may lie here", say(most, "mm"))


def conductors_only(role: Role, joints: Joints, gap_mm: float) -> Joints:
    """The joints without how they are laid and without those of the other role.

    Of the series joints the number of strips stays: by it the group strips share the current.
    ``gap_mm`` is what lies between the cells as they are laid.
    """
    return Joints(
        group=joints.group if role == "group" else Strip(),
        series=joints.series if role == "series" else Strip(strips=joints.series.strips),
        take_off=joints.take_off,
        side_a=joints.side_a,
        side_b=joints.side_b,
        gap_mm=gap_mm,
        welder_limit_mm=joints.welder_limit_mm,
        school=joints.school,
        rise_limit_k=joints.rise_limit_k,
        rule_a_per_mm2=joints.rule_a_per_mm2,
        loss_mv=joints.loss_mv,
    )


def bare_conductors(
    role: Role, conductors: Mapping[str, Conductor], strips_set: int | None, bed: Bed
) -> tuple[Bare, ...]:
    """Every conductor in one to four layers (a busbar in two), as it would lie in a role.

    ``strips_set`` is how many the builder lays side by side, if that was said.
    """
    lying: list[Lying] = []
    for part in conductors.values():
        layers_up_to = MOST_BARS if part.form == "busbar" else MOST_LAYERS
        strips = strip_count(strips_set, part.form, role, bed.cell, bed.parallel)
        width = fitted_width(part, role, bed, strips)
        lying.extend(Lying(part, width, layers, strips) for layers in range(1, layers_up_to + 1))
    return _bare(lying, role, bed)


def rise_curve_k(item: Candidate, setting: Setting, currents_a: Array) -> Array:
    """Rise in K of a candidate over the cell at each pack current (any shape), warm (methods 9).

    The rise at 20 degC goes with the square of the current; NaN where the strip would run away.
    """
    section = item.section
    share = item.current_a / setting.current_a / item.strips
    rise = free_rise_k if item.part.form == "busbar" else strip_rise_k
    cold = rise(section, share) * np.asarray(currents_a) ** 2
    material = section.material
    rest = 1.0 - material.per_kelvin * cold
    warm = 1.0 + material.per_kelvin * (setting.surroundings_c - ROOM_C)
    return np.where(rest > 0.0, cold * warm / np.where(rest > 0.0, rest, 1.0), np.nan)
