"""What every piece is made of, as arrays: section, resistance, rise and what it carries."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrays import distinct
from lumvak.core.catalogue.cells import Cell
from lumvak.core.clearance.widest import Widths
from lumvak.core.conductors.lead_wire import INSULATION_MM, STRAND_FACTOR
from lumvak.core.conductors.strip_and_wire import (
    COPPER,
    MATERIALS,
    NICKEL,
    ROOM_C,
    WIRE_FILM_W_PER_M2_K,
    Cooling,
)
from lumvak.core.document.joints import Joints
from lumvak.core.document.power import School
from lumvak.core.joints.candidates import Candidate
from lumvak.core.joints.pieces import SERIES, TIE, WIRE, Pieces
from lumvak.core.spelling import awg_area_mm2
from lumvak.core.time_current import peak_allowance

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
MATERIAL_LIST = tuple(MATERIALS.values())
TIE_AWG = 22
# A sheet over nested rows is a net of triangles: each side carries 1/sqrt(3) of a square's share.
TRIANGLE_SHARE = 3.0**-0.5


class Sections(Struct, frozen=True, eq=False):
    """The section of every piece; arrays of length M.

    ``strips`` conductors lie side by side, each of ``layers`` of ``thickness_mm`` by
    ``width_mm``; for a wire ``width_mm`` is its outer diameter and ``area_mm2`` its copper.
    """

    pieces: Pieces
    material: Index
    thickness_mm: Array
    width_mm: Array
    layers: Array
    strips: Array
    area_mm2: Array
    ohm: Array
    wire: Mask
    free: Mask
    cooling: Cooling

    @property
    def leaving_w_per_m_k(self) -> Array:
        """(M,) heat in W/(m K) that the surface of a flat conductor gives off."""
        surface_m = self.cooling.surface_m(self.width_mm, self.thickness_mm * self.layers)
        return self.cooling.film_w_per_m2_k * surface_m

    def of_material(self, name: str) -> Array:
        """One property of every piece's material, (M,), by its name in ``conductors.Material``."""
        return np.array([getattr(item, name) for item in MATERIAL_LIST])[self.material]


def between_groups(pieces: Pieces) -> Mask:
    """Which pieces, (M,), join a group to the next; the others lie within one."""
    group = pieces.layout.group
    return np.asarray(group[pieces.a // 2] != group[pieces.b // 2])


def sections_of(
    pieces: Pieces, group: Candidate, series: Candidate, widths: Widths, wire_mm2: float
) -> Sections:
    """Give every piece its section: the joints in force, sheets as wide as the pitch, wires.

    Parameters: the group and series conductor in force; how wide pieces may lie by ``widths``:
    strips that do not lie side by side on one place lie on each other; ``wire_mm2`` of wires
    between cells. It is long, for every kind of piece has its lines.
    """
    count = len(pieces)
    layout = pieces.layout
    outer = between_groups(pieces)
    names = [item.name for item in MATERIAL_LIST]
    material = np.empty(count, dtype=np.intp)
    thickness, width, layers = np.empty(count), np.empty(count), np.empty(count)
    free = np.zeros(count, dtype=bool)
    strips = pieces.strips.copy()
    for mask, item in ((~outer, group), (outer, series)):
        material[mask] = names.index(item.part.material)
        thickness[mask] = item.part.thickness_mm
        width[mask] = item.width_mm
        layers[mask] = item.layers
        free[mask] = item.part.form == "busbar"
    # A bar or sheet over a whole front is shared out by width, not by number.
    across = series.part.form != "strip" and layout.cell.diameter_mm is not None
    spread = (pieces.kind == SERIES) & ~pieces.meshed & across
    width[spread] *= strips[spread]
    strips[spread] = 1.0
    for mask, item in ((~outer, group), (outer, series)):
        flat = mask & (strips > 1.0)
        lanes = widths.lanes(item.width_mm, item is series)
        for count in distinct(strips[flat]):
            beside = side_by_side(int(count), lanes)
            alike = flat & (strips == count)
            layers[alike] *= count / beside
            strips[alike] = beside
    _sheets(pieces, series, material, thickness, width, layers)
    strips[pieces.meshed] = 1.0
    layers = np.where(pieces.layers > 0, pieces.layers, layers)
    wire = (pieces.kind == WIRE) | (pieces.kind == TIE)
    area = thickness * width * layers
    area[pieces.kind == WIRE] = wire_mm2
    area[pieces.kind == TIE] = awg_area_mm2(TIE_AWG)
    # Layers of a wire are wires side by side.
    strips[wire] = np.maximum(1, pieces.layers[wire])
    layers[wire] = 1.0
    material[wire] = names.index(COPPER.name)
    width[wire] = STRAND_FACTOR * np.sqrt(4.0 * area[wire] / np.pi) + INSULATION_MM
    thickness[wire] = width[wire]
    resistivity = np.array([item.resistivity_ohm_m for item in MATERIAL_LIST])[material]
    ohm = resistivity * pieces.length_mm * 1e3 / (area * strips)
    return Sections(
        pieces,
        material,
        thickness_mm=thickness,
        width_mm=width,
        layers=layers,
        strips=strips,
        area_mm2=area,
        ohm=ohm,
        wire=wire,
        free=free & ~wire & ~pieces.meshed & (layout.cell.diameter_mm is not None),
        cooling=series.section.cooling,
    )


def side_by_side(strips: int, lanes: int) -> int:
    """How many of so many strips lie beside each other in so many lanes; the others on them.

    As many on each: the largest number of lanes that divides them.
    """
    return max(count for count in range(1, min(strips, lanes) + 1) if strips % count == 0)


def _sheets(
    pieces: Pieces, sheet: Candidate, material: Index, thickness: Array, width: Array, layers: Array
) -> None:
    """A sheet is a net of resistors, each as wide as the places are apart (methods 19)."""
    meshed = pieces.meshed
    if not meshed.any():
        return
    layout = pieces.layout
    nested = bool((np.bincount(layout.neighbours.ravel(), minlength=1) > 4).any())
    across = layout.cell.pitch_mm + layout.gap_mm
    material[meshed] = list(MATERIALS).index(sheet.part.material)
    thickness[meshed] = sheet.part.thickness_mm
    width[meshed] = across * (TRIANGLE_SHARE if nested else 1.0)
    layers[meshed] = sheet.layers


def rise_per_square(sections: Sections) -> Array:
    """(M,) rise in K of mid-span at 20 degC for one A^2 in each conductor (methods 9 and 11)."""
    rho, k = (
        sections.of_material("resistivity_ohm_m"),
        sections.of_material("conductivity_w_per_m_k"),
    )
    area = sections.area_mm2 * 1e-6
    leaving, joule = sections.leaving_w_per_m_k, rho / area
    held = sections.cooling.share_held(leaving, k * area, sections.pieces.length_mm * 1e-3)
    strip = joule / leaving * np.where(sections.free, 1.0, held)
    wire = joule / (WIRE_FILM_W_PER_M2_K * np.pi * sections.width_mm * 1e-3)
    return np.asarray(np.where(sections.wire, wire, strip))


def rises_k(sections: Sections, per_square: Array, piece_a: Array, surroundings_c: Array) -> Array:
    """(M,) rise in K of each piece at its current, warm; infinite where it would run away.

    ``surroundings_c`` (M,) is what each rises from.
    """
    cold = per_square * (piece_a / sections.strips) ** 2
    alpha = sections.of_material("per_kelvin")
    rest = 1.0 - alpha * cold
    warm = cold * (1.0 + alpha * (surroundings_c - ROOM_C))
    return np.where(rest > 0.0, warm / np.where(rest > 0.0, rest, 1.0), np.inf)


def limits_a(
    sections: Sections,
    per_square: Array,
    joints: Joints,
    wire_rise_k: float,
    surroundings_c: Array,
    school: School,
) -> Array:
    """(M,) what each piece carries by a school, all its conductors together.

    Wires carry what their rise over the air, ``wire_rise_k``, allows.
    """
    alpha = sections.of_material("per_kelvin")
    rise = np.where(sections.wire, wire_rise_k, joints.rise_limit_k)
    by_rise = np.sqrt(rise / (per_square * (1.0 + alpha * (surroundings_c + rise - ROOM_C))))
    rho = sections.of_material("resistivity_ohm_m")
    if school == "rule":
        density = joints.rule_a_per_mm2 * np.sqrt(NICKEL.resistivity_ohm_m / rho)
        chosen = density * sections.area_mm2
    elif school == "loss":
        chosen = joints.loss_mv * 1e-3 / (sections.ohm * sections.strips)
    else:
        chosen = by_rise
    return np.asarray(np.where(sections.wire, by_rise, chosen) * sections.strips)


def peak_factors(sections: Sections, seconds: float) -> Array:
    """(M,) what a peak may be over the continuous current (methods 9)."""
    tau = time_constants_s(sections)
    return np.sqrt(peak_allowance(seconds) / -np.expm1(-seconds / tau))


def time_constants_s(sections: Sections) -> Array:
    """(M,) slowest time constant in s of each piece (methods 9)."""
    length = sections.pieces.length_mm * 1e-3
    k, rho_m = (
        sections.of_material("conductivity_w_per_m_k"),
        sections.of_material("density_kg_per_m3"),
    )
    heat = sections.of_material("heat_j_per_kg_k")
    area = sections.area_mm2 * 1e-6
    returning = sections.cooling.returning(sections.leaving_w_per_m_k, k, area, length)
    wire = WIRE_FILM_W_PER_M2_K * np.pi * sections.width_mm * 1e-3 / area
    return np.asarray(rho_m * heat / np.where(sections.wire, wire, returning))


def mass_g(sections: Sections) -> Array:
    """(M,) mass in g of each piece; a wire's insulation is left out."""
    volume = sections.area_mm2 * sections.strips * sections.pieces.length_mm * 1e-3
    return np.asarray(volume * sections.of_material("density_kg_per_m3") * 1e-3)


CONTACTS_MOHM = {"weld": 0.2, "solder": 0.05, "cap": 1.5, "screw": 0.1}
CONTACT_LIMITS_A = {"cap": 10.0}
LINK_DROP_MV = 60.0
TAB_MOHM = 0.33


def joining_of(joints: Joints, cell: Cell) -> str:
    """How strips are fixed to the cells: as set, else by the kind of cell."""
    if joints.joining is not None:
        return joints.joining
    return {"prismatic": "screw", "pouch": "solder"}.get(cell.format, "weld")
