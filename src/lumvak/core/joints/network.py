"""Where the current goes: nodal analysis of the pack as it lies (methods 19).

Each cell is an EMF behind its resistance and that of its two joints; each piece between two
terminals is a resistor; each main lead is one from where it leaves to the pack's outer end. The
network is linear in the current drawn, so one factorisation serves every current.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.arrangement.connected import components
from lumvak.core.arrays import distinct
from lumvak.core.joints.take_off import Lead

if TYPE_CHECKING:
    from scipy.sparse import csc_array

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
# A lead within this share of a piece from its end leaves at the end: a piece of it so short would
# be no resistor, and spoil the solution of all the others.
AT_END = 1e-4
# Up to so many nodes a full matrix is solved.
DENSE_NODES = 320
# Currents under this in A are none: nothing is divided by them.
LEAST_A = 1e-9


class Network(Struct, frozen=True, eq=False):
    """A pack as resistors and sources.

    ``a``, ``b``, ``ohm`` (M,) are the pieces between terminals; ``emf_v``, ``cell_ohm`` (N,) the
    cells, whose positive end is terminal ``2 c``; ``rest_v`` (2 N,) is about where each terminal
    stands, from which voltages are counted so that no digits are lost. ``contact_ohm`` (2 N,) lies
    between a terminal and the strip over it, ``link_ohm`` (N,) is a fusible link at its positive
    end; ``live`` (N,) tells the cells that are joined at both ends; ``lead_ohm`` (L,) are the
    leads. ``whole`` where it is known that pieces and cells all hang together.
    """

    a: Index
    b: Index
    ohm: Array
    emf_v: Array
    rest_v: Array
    cell_ohm: Array
    contact_ohm: Array
    link_ohm: Array
    live: Mask
    leads: tuple[Lead, ...]
    lead_ohm: Array
    whole: bool = False


class Branches(Struct, frozen=True, eq=False):
    """All resistors between nodes: pieces cut where leads leave them, cells, leads.

    Nodes are the strips over the terminals, then one for each cut, then the outer positive and the
    outer negative end. ``part`` tells the piece of a branch, -1 for others.
    """

    a: Index
    b: Index
    siemens: Array
    part: Index
    pieces: int
    cells: int
    lead_node: Index
    nodes: int
    rest_v: Array


class Solved(Struct, frozen=True, eq=False, dict=True):
    """A network solved: ``open_v`` over ``rest_v`` with nothing drawn, ``unit_v`` for one ampere.

    What depends on the current comes from ``at``.
    """

    network: Network
    branches: Branches
    open_v: Array
    unit_v: Array
    floating: Mask

    @property
    def outer_ohm(self) -> float:
        """Resistance in ohm of the pack between its outer ends, main leads included."""
        return -float(self.unit_v[-2])

    @property
    def leads_ohm(self) -> float:
        """What the main leads alone would be between where they leave and the outer ends."""
        siemens = 1.0 / self.network.lead_ohm
        plus = np.array([lead.pole == "+" for lead in self.network.leads])
        return float(1.0 / siemens[plus].sum() + 1.0 / siemens[~plus].sum())

    @property
    def effective_ohm(self) -> float:
        """Resistance in ohm of cells and joints, without the main leads."""
        return self.outer_ohm - self.leads_ohm

    def at(self, current_a: float) -> Flow:
        """Everything at one current drawn, in A."""
        return flow_of(self, self.open_v + current_a * self.unit_v, current_a)

    @cached_property
    def share(self) -> Flow:
        """What each part gets of one ampere drawn, whatever flows between unequal cells."""
        return flow_of(self, self.unit_v, 1.0, sources=False)


class Flow(Struct, frozen=True, eq=False):
    """The network at one current.

    ``node_v`` of every node (the last is the outer negative end, 0 V); ``terminal_v`` (2 N,) at
    the cells' own ends; ``cell_a`` (N,) discharging; ``piece_a`` (M,) from a to b, the larger
    part where a lead cuts a piece; ``piece_w`` (M,); ``lead_a`` (L,) outwards.
    """

    current_a: float
    node_v: Array
    terminal_v: Array
    cell_a: Array
    piece_a: Array
    piece_w: Array
    lead_a: Array
    branch_a: Array
    balance: float
    power_balance: float


def over_fair(flow: Flow, parallel: int) -> Array:
    """(N,) how far each cell works over (+) or under (-) its fair share, as a fraction of it.

    The fair share is the pack current over the ``parallel`` cells of a group; at no current all
    that flows is over it (methods 19).
    """
    return flow.cell_a / max(flow.current_a / parallel, LEAST_A) - 1.0


def drops_v(flow: Flow, ohm: Array) -> Array:
    """(M,) V along each piece at its largest current; ``ohm`` (M,) are the pieces'."""
    return np.abs(flow.piece_a) * ohm


def branches_of(network: Network) -> Branches:
    """Every resistor with its two nodes; a piece with leads on it is cut there."""
    ends = len(network.emf_v) * 2
    cuts, far = _cuts(network)
    one, two = network.a, network.b
    siemens = 1.0 / network.ohm
    part = np.arange(len(one))
    node = ends
    lead_node = np.array(
        [far.get(place, lead.terminal) for place, lead in enumerate(network.leads)], dtype=np.intp
    )
    if cuts:
        extra: list[tuple[int, int, float, int]] = []
        kept = np.ones(len(one), dtype=bool)
        for piece, places in cuts.items():
            kept[piece] = False
            last, reached = int(one[piece]), 0.0
            for share, leads in places:
                extra.append((last, node, 1.0 / (network.ohm[piece] * (share - reached)), piece))
                lead_node[leads] = node
                last, reached = node, share
                node += 1
            extra.append(
                (last, int(two[piece]), 1.0 / (network.ohm[piece] * (1.0 - reached)), piece)
            )
        one = np.concatenate([one[kept], [item[0] for item in extra]])
        two = np.concatenate([two[kept], [item[1] for item in extra]])
        siemens = np.concatenate([siemens[kept], [item[2] for item in extra]])
        part = np.concatenate([part[kept], [item[3] for item in extra]])
    positive, negative = node, node + 1
    live = np.flatnonzero(network.live)
    inner = (
        network.cell_ohm + network.contact_ohm[0::2] + network.contact_ohm[1::2] + network.link_ohm
    )
    rest = np.zeros(node + 2)
    rest[:ends] = network.rest_v
    rest[lead_node] = network.rest_v[[lead.terminal for lead in network.leads]]
    rest[positive] = max(
        (network.rest_v[lead.terminal] for lead in network.leads if lead.pole == "+"), default=0.0
    )
    outer = [positive if lead.pole == "+" else negative for lead in network.leads]
    return Branches(
        np.concatenate([one, 2 * live, lead_node]).astype(np.intp),
        np.concatenate([two, 2 * live + 1, outer]).astype(np.intp),
        siemens=np.concatenate([siemens, 1.0 / inner[live], 1.0 / network.lead_ohm]),
        part=part.astype(np.intp),
        pieces=len(one),
        cells=len(live),
        lead_node=lead_node,
        nodes=node + 2,
        rest_v=rest,
    )


def _cuts(
    network: Network,
) -> tuple[dict[int, list[tuple[float, list[int]]]], dict[int, int]]:
    """Where leads leave off their own terminal.

    For each piece that leads cut, the shares of its length from its first end, and the leads
    there; and for each lead at the far end of its piece, the terminal that lies there.
    """
    found: dict[int, dict[float, list[int]]] = {}
    far: dict[int, int] = {}
    for place, lead in enumerate(network.leads):
        if lead.toward is None or lead.share < AT_END:
            continue
        low, high = sorted((lead.terminal, lead.toward))
        pieces = np.flatnonzero((network.a == low) & (network.b == high))
        if not len(pieces):
            continue
        if lead.share > 1.0 - AT_END:
            far[place] = lead.toward
            continue
        share = lead.share if lead.terminal < lead.toward else 1.0 - lead.share
        found.setdefault(int(pieces[0]), {}).setdefault(share, []).append(place)
    return {piece: sorted(places.items()) for piece, places in found.items()}, far


def entries(branches: Branches) -> tuple[Array, Index, Index]:
    """Values in siemens, rows and columns of the nodal matrix, (K,) each.

    The outer negative end is ground.
    """
    one, two, g = branches.a, branches.b, branches.siemens
    rows = np.concatenate([one, two, one, two])
    columns = np.concatenate([one, two, two, one])
    values = np.concatenate([g, g, -g, -g])
    ground = branches.nodes - 1
    inner = (rows != ground) & (columns != ground)
    return values[inner], rows[inner], columns[inner]


def conductance(branches: Branches) -> csc_array[np.float64]:
    """The nodal matrix in siemens, sparse."""
    from scipy.sparse import coo_array

    values, rows, columns = entries(branches)
    return coo_array((values, (rows, columns)), shape=(branches.nodes - 1,) * 2).tocsc()


def solve(network: Network) -> Solved | None:
    """Solve a network; ``None`` where no current can pass from the negative to the positive end.

    Parts that hang on nothing are tied to ground at one node, carry no current of the load, and
    are marked as floating.
    """
    branches = branches_of(network)
    ground, positive = branches.nodes - 1, branches.nodes - 2
    floating, tied = np.zeros(branches.nodes, dtype=bool), np.zeros(0, dtype=np.intp)
    led = {lead.pole for lead in network.leads} == {"+", "-"}
    if not (network.whole and led):
        part = components(branches.nodes, branches.a, branches.b)
        if part[positive] != part[ground]:
            return None
        floating = part != part[ground]
        tied = distinct(part[floating])
    driven = _driven(network, branches) * branches.siemens
    wanted = np.zeros((ground, 2))
    wanted[:, 0] = np.bincount(branches.a, driven, branches.nodes)[:ground]
    wanted[:, 0] -= np.bincount(branches.b, driven, branches.nodes)[:ground]
    wanted[positive, 1] = -1.0
    found = (solve_dense if ground <= DENSE_NODES else solve_sparse)(branches, tied, wanted)
    volts = np.concatenate([found, np.zeros((1, 2))])
    return Solved(network, branches, volts[:, 0], volts[:, 1], floating)


def solve_dense(branches: Branches, tied: Index, wanted: Array) -> Array:
    """Small networks: (N, 2) V from a full matrix, as quick, and nothing has to be loaded.

    ``tied`` are nodes that hang on nothing and get a conductance to ground; ``wanted`` (N, 2) A
    driven into each node, by the sources and by one ampere drawn.
    """
    values, rows, columns = entries(branches)
    count = len(wanted)
    full: Array = np.zeros((count, count))
    np.add.at(full, (rows, columns), values)
    full[tied, tied] += 1.0
    return np.asarray(np.linalg.solve(full, wanted), dtype=np.float64)


def solve_sparse(branches: Branches, tied: Index, wanted: Array) -> Array:
    """Large networks: the same (N, 2) volts from the few entries that are not nothing."""
    from scipy.sparse import coo_array
    from scipy.sparse.linalg import splu

    matrix = conductance(branches)
    if len(tied):
        matrix = matrix + coo_array((np.ones(len(tied)), (tied, tied)), shape=matrix.shape).tocsc()
    # Symmetric and diagonally dominant: no pivoting, an ordering for symmetric patterns.
    factors = splu(
        matrix, permc_spec="MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options={"SymmetricMode": True}
    )
    return np.asarray(factors.solve(wanted))


def _driven(network: Network, branches: Branches) -> Array:
    """Volts that drive each branch from b to a beyond where its ends rest: the EMF of the cells."""
    driven = branches.rest_v[branches.b] - branches.rest_v[branches.a]
    cells = slice(branches.pieces, branches.pieces + branches.cells)
    driven[cells] += network.emf_v[network.live]
    return driven


def flow_of(solved: Solved, over_v: Array, current_a: float, sources: bool = True) -> Flow:
    """Currents, losses and balances of a network.

    ``over_v`` (N,) are its node voltages over where they rest.
    """
    network, branches = solved.network, solved.branches
    emf = network.emf_v if sources else np.zeros(len(network.emf_v))
    branch_v = over_v[branches.a] - over_v[branches.b]
    node_v = over_v
    if sources:
        branch_v = branch_v - _driven(network, branches)
        node_v = over_v + branches.rest_v
    branch_a = branch_v * branches.siemens
    cells = slice(branches.pieces, branches.pieces + branches.cells)
    live = np.flatnonzero(network.live)
    cell_a = np.zeros(len(network.emf_v))
    cell_a[live] = -branch_a[cells]
    along = branch_a[: branches.pieces]
    watts = along**2 / branches.siemens[: branches.pieces]
    piece_a: Array = np.zeros(len(network.a))
    order = np.argsort(np.abs(along), kind="stable")
    piece_a[branches.part[order]] = along[order]
    lead_a = np.array(
        [
            (1.0 if lead.pole == "+" else -1.0) * value
            for lead, value in zip(network.leads, branch_a[cells.stop :], strict=True)
        ]
    )
    terminal_v = node_v[: 2 * len(emf)].copy()
    terminal_v[0::2] += cell_a * (network.contact_ohm[0::2] + network.link_ohm)
    terminal_v[1::2] -= cell_a * network.contact_ohm[1::2]
    # An end that is joined to nothing stands at the cell's own voltage from the other end.
    net = np.bincount(branches.a, branch_a, branches.nodes)
    net -= np.bincount(branches.b, branch_a, branches.nodes)
    net[-2] += current_a
    net[-1] -= current_a
    through = np.bincount(branches.a, np.abs(branch_a), branches.nodes).sum()
    lost = float((branch_a**2 / branches.siemens).sum())
    made = float((emf * cell_a).sum()) if sources else 0.0
    delivered = current_a * float(node_v[-2])
    scale = max(abs(made), abs(delivered), lost, 1e-300)
    return Flow(
        current_a,
        node_v,
        terminal_v=terminal_v,
        cell_a=cell_a,
        piece_a=piece_a,
        piece_w=np.asarray(np.bincount(branches.part, watts, len(network.a)), dtype=np.float64),
        lead_a=lead_a,
        branch_a=branch_a,
        balance=float(np.abs(net).max() / max(through, 1e-300)),
        power_balance=abs(made - delivered - lost) / scale,
    )


def without(
    network: Network,
    cells: Sequence[int] = (),
    pieces: Sequence[int] = (),
) -> Network:
    """The network with some cells (or their joints) and some pieces broken."""
    live = network.live.copy()
    live[list(cells)] = False
    kept = np.ones(len(network.a), dtype=bool)
    kept[list(pieces)] = False
    return replace(
        network,
        a=network.a[kept],
        b=network.b[kept],
        ohm=network.ohm[kept],
        live=live,
        whole=False,
    )
