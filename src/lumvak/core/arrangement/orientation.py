"""Which way the cells of each group point, so that the posts to be joined lie opposite each other.

Standing face to face, the next group is turned; side by side it is not, and its plus looks to where
the path goes on (methods 18).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
# A joint with any strip at all counts for more than however many more strips elsewhere.
JOINED = 1000


def orientations(series: int, joint: Index, stacked: Mask, onwards: Index) -> tuple[Mask, Index]:
    """Which groups of flat cells are turned, (S,), and how many strips each joint then has.

    For every pair of neighbours of two groups that follow each other: (K,) the ``joint``, counted
    from 0, whether the two stand face to face (``stacked``), and for those side by side whether the
    next one lies to the right (1), to the left (-1), or neither (0). The most joints that can be
    made with strips, and of those ways the one with most strips, found link by link.
    """
    links = max(0, series - 1)
    face = np.bincount(joint[stacked], minlength=links)
    right = np.bincount(joint[~stacked & (onwards > 0)], minlength=links)
    left = np.bincount(joint[~stacked & (onwards < 0)], minlength=links)
    # strips[k, s, t]: between group k pointing s and the next pointing t, 1 where turned.
    strips = np.zeros((links, 2, 2), dtype=np.intp)
    strips[:, 0, 1] = strips[:, 1, 0] = face
    strips[:, 0, 0], strips[:, 1, 1] = right, left
    worth = strips + JOINED * (strips > 0)
    best = np.zeros(2, dtype=np.intp)
    came = np.zeros((links, 2), dtype=np.intp)
    for link in range(links):
        ways = best[:, None] + worth[link]
        came[link] = ways.argmax(axis=0)
        best = ways.max(axis=0)
    turned = np.zeros(series, dtype=bool)
    turned[-1] = bool(best.argmax())
    for link in range(links - 1, -1, -1):
        turned[link] = bool(came[link, int(turned[link + 1])])
    fronts = strips[np.arange(links), turned[:-1].astype(np.intp), turned[1:].astype(np.intp)]
    return turned, np.asarray(fronts, dtype=np.intp)
