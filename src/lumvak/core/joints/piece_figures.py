"""The figures of one piece of the pack on the table, made when they are asked for."""

from __future__ import annotations

import math

from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.network_figures import NetworkFigures

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
RESISTIVITY = Rule("piece.resistivity", "Resistivity", "nΩ·m", "at 20 °C", "methods 8 [3]")
LENGTH_MM = Rule("piece.length_mm", "Length: {}", "mm",
                 "from terminal to terminal; a wire × 1.25 + 20 mm", "methods 19")
AREA_MM2 = Rule("piece.area_mm2", "Section: {}", "mm²",
                "width × thickness × layers × strips side by side", "methods 8")
RESISTANCE_OHM = Rule("piece.resistance_ohm", "Resistance: {}", "ohm", "ρ·L ÷ section",
                      "methods 8 [3]")
SHARE = Rule("piece.share", "Share of the pack current: {}", "%", "from the solve", "methods 19")
CURRENT_A = Rule("piece.current_a", "Current: {}", "A", "from the solve at the continuous current",
                 "methods 19")
DROP_MV = Rule("piece.drop_mv", "Drop: {}", "mV", "current × resistance", "methods 9")
LOSS_W = Rule("piece.loss_w", "Heat: {}", "W", "current² × resistance", "methods 9")
RISE_K = Rule("piece.rise_k", "Rise: {}", "K",
              "rise of mid-span with warm resistivity; a wire over the air", "methods 9 [4]")
LIMIT_A = Rule("piece.limit_a", "The pack may draw: {}", "A",
               "what the piece carries by the sizing criterion in force ÷ its share", "methods 19")
# fmt: on


def piece_figures(
    piece: int,
    joined_pack: JoinedPack,
    network: NetworkFigures | None,
    widths: tuple[Figure, ...],
    school: Figure,
    current: Figure,
    series: Figure,
    parallel: Figure,
    ambient: Figure,
) -> tuple[Figure, ...]:
    """Section, resistance, current, loss, rise and limit of a piece; none where nothing is solved.

    ``widths`` are those of the strips in force, ``school`` the one in force.

    It is long, for it lists one figure after the other.
    """
    if (
        network is None
        or joined_pack.flow is None
        or joined_pack.carried is None
        or joined_pack.solved is None
    ):
        return ()
    sections, pieces = joined_pack.sections, joined_pack.pieces
    name = pieces.name(piece)

    material = sections.of_material("resistivity_ohm_m")
    rho = RESISTIVITY.of(float(material[piece]) * 1e9, origin="constant")
    base = network.nodes
    length = LENGTH_MM.of(float(pieces.length_mm[piece]), series, parallel, label=name)
    area = AREA_MM2.of(
        float(sections.area_mm2[piece] * sections.strips[piece]), *widths, label=name
    )
    ohm = RESISTANCE_OHM.of(float(sections.ohm[piece]), rho, length, area, label=name)
    share = SHARE.of(abs(float(joined_pack.solved.share.piece_a[piece])), base, ohm, label=name)
    amps = CURRENT_A.of(abs(float(joined_pack.flow.piece_a[piece])), current, share, label=name)
    drop = DROP_MV.of(amps.number * ohm.number * 1e3, amps, ohm, label=name)
    loss = LOSS_W.of(float(joined_pack.flow.piece_w[piece]), amps, ohm, label=name)
    rise = float(joined_pack.carried.rise_k[piece])
    warm = RISE_K.of(rise if math.isfinite(rise) else None, amps, length, area, ambient, label=name)
    limit = float(joined_pack.carried.pack_limit_a[piece])
    may = LIMIT_A.of(
        limit if math.isfinite(limit) else None, share, length, area, school, label=name
    )
    return (may, warm, loss, drop, amps, share, ohm, area, length, rho)
