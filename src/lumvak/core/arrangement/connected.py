"""Which nodes hang together; small, so that no sparse library has to be loaded for it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Index = NDArray[np.intp]


def components(count: int, one: Index, two: Index) -> Index:
    """(count,) the lowest node that each node hangs together with, over links ``one`` to ``two``.

    Links lower the labels of both ends and of what those stand for, until nothing changes; labels
    are followed to their end each time, so that long chains need few rounds.
    """
    label = np.arange(count)
    while True:
        low = np.minimum(label[one], label[two])
        fresh = label.copy()
        for ends in (one, two):
            np.minimum.at(fresh, ends, low)
            np.minimum.at(fresh, label[ends], low)
        fresh = fresh[fresh]
        if (fresh == label).all():
            return label
        label = fresh


def spanning(count: int, one: Index, two: Index, weight: NDArray[np.float64]) -> NDArray[np.bool_]:
    """(M,) which links make up the lightest forest over ``count`` nodes; of equals the first."""
    root = list(range(count))

    def found(node: int) -> int:
        while root[node] != node:
            root[node] = root[root[node]]
            node = root[node]
        return node

    kept = np.zeros(len(one), dtype=bool)
    for link in np.argsort(weight, kind="stable").tolist():
        a, b = found(int(one[link])), found(int(two[link]))
        if a != b:
            root[a] = b
            kept[link] = True
    return kept
