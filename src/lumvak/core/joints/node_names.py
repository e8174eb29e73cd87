"""Names of the nodes of the network, alike in the netlist and in the evaluation's JSON."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.pieces import terminal_name


class Names(Struct, frozen=True):
    """``node`` names the nodes of the network, ``terminal`` the cells' own ends."""

    node: tuple[str, ...]
    terminal: tuple[str, ...]


def node_names(joined_pack: JoinedPack) -> Names:
    """``g1c1p`` and ``g1c1n`` for the cells' ends, ``g1c1ps`` for the strip over one.

    Where a lead cuts a piece its node is ``lead1``; the outer ends are ``pack`` and ``0``.
    """
    assert joined_pack.solved is not None
    ends = 2 * len(joined_pack.layout)
    terminal = tuple(terminal_name(joined_pack.layout, place) for place in range(ends))
    cuts = joined_pack.solved.branches.nodes - 2 - ends
    node = (
        *(f"{name}s" for name in terminal),
        *(f"lead{place + 1}" for place in range(cuts)),
        "pack",
        "0",
    )
    return Names(node, terminal)


def node_voltages(joined_pack: JoinedPack) -> dict[str, float]:
    """Volts of every node over the outer negative end; empty where nothing is solved.

    Besides the nodes of the network the cells' own ends and, as ``g1c1e``, their EMF.
    """
    if joined_pack.solved is None or joined_pack.flow is None or joined_pack.network is None:
        return {}
    names = node_names(joined_pack)
    found = dict(zip(names.terminal, joined_pack.flow.terminal_v.tolist(), strict=True))
    found.update(zip(names.node, joined_pack.flow.node_v.tolist(), strict=True))
    for cell, name in enumerate(joined_pack.layout.name):
        negative = float(joined_pack.flow.terminal_v[2 * cell + 1])
        found[f"{name}e"] = negative + float(joined_pack.network.emf_v[cell])
    return found
