"""How evenly cells of given resistances share the load where they sit, from the network."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from msgspec.structs import replace

from lumvak.core.arrangement.layout import Layout
from lumvak.core.joints.network import Network, solve


def busiest_over_fair(network: Network, layout: Layout, ohm: Mapping[str, float]) -> float | None:
    """How far the busiest cell works over its fair share, as a fraction; ``None`` if not solved.

    ``ohm`` gives the resistance of cells by their place, such as g3c2; the others are as they are
    in ``network``. Whatever flows between cells of unequal charge is left out (methods 19).
    """
    own = np.array(
        [
            ohm.get(name, float(before))
            for name, before in zip(layout.name, network.cell_ohm, strict=True)
        ]
    )
    solved = solve(replace(network, cell_ohm=own))
    if solved is None:
        return None
    return float(solved.share.cell_a.max()) * layout.parallel - 1.0
