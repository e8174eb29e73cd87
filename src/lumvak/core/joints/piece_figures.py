"""The figures of one piece of the pack on the table, made when they are asked for."""

from __future__ import annotations

import math

from lumvak.core.figures.figure import Figure, Rule, computed
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.network_figures import NetworkFigures
from lumvak.core.said import phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
RESISTIVITY = Rule("piece.resistivity", "Resistivity", "nΩ·m", "at 20 °C", "methods 8 [3]")
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

    def made(
        key: str,
        label: str,
        value: float | None,
        unit: str,
        rule: str,
        source: str,
        *inputs: Figure,
    ) -> Figure:
        return computed(
            f"piece.{key}", phrase("{}: {}", label, name), value, unit, rule, source, *inputs
        )

    material = sections.of_material("resistivity_ohm_m")
    rho = RESISTIVITY.of(float(material[piece]) * 1e9, origin="constant")
    base = network.nodes
    length = made(
        "length_mm",
        "Length",
        float(pieces.length_mm[piece]),
        "mm",
        "from terminal to terminal; a wire × 1.25 + 20 mm",
        "methods 19",
        series,
        parallel,
    )
    area = made(
        "area_mm2",
        "Section",
        float(sections.area_mm2[piece] * sections.strips[piece]),
        "mm²",
        "width × thickness × layers × strips side by side",
        "methods 8",
        *widths,
    )
    ohm = made(
        "resistance_ohm",
        "Resistance",
        float(sections.ohm[piece]),
        "ohm",
        "ρ·L ÷ section",
        "methods 8 [3]",
        rho,
        length,
        area,
    )
    share = made(
        "share",
        "Share of the pack current",
        abs(float(joined_pack.solved.share.piece_a[piece])),
        "%",
        "from the solve",
        "methods 19",
        base,
        ohm,
    )
    amps = made(
        "current_a",
        "Current",
        abs(float(joined_pack.flow.piece_a[piece])),
        "A",
        "from the solve at the continuous current",
        "methods 19",
        current,
        share,
    )
    drop = made(
        "drop_mv",
        "Drop",
        amps.number * ohm.number * 1e3,
        "mV",
        "current × resistance",
        "methods 9",
        amps,
        ohm,
    )
    loss = made(
        "loss_w",
        "Heat",
        float(joined_pack.flow.piece_w[piece]),
        "W",
        "current² × resistance",
        "methods 9",
        amps,
        ohm,
    )
    rise = float(joined_pack.carried.rise_k[piece])
    warm = made(
        "rise_k",
        "Rise",
        rise if math.isfinite(rise) else None,
        "K",
        "rise of mid-span with warm resistivity; a wire over the air",
        "methods 9 [4]",
        amps,
        length,
        area,
        ambient,
    )
    limit = float(joined_pack.carried.pack_limit_a[piece])
    may = made(
        "limit_a",
        "The pack may draw",
        limit if math.isfinite(limit) else None,
        "A",
        "what the piece carries by the school in force ÷ its share",
        "methods 19",
        share,
        length,
        area,
        school,
    )
    return (may, warm, loss, drop, amps, share, ohm, area, length, rho)
