"""Where the names of curves go: beside their curve, apart from each other and off all lines."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Box = tuple[float, float, float, float]
# Places tried along a curve, the gap beside it in px, rows of names above and below it.
TRIED, GAP, ROWS = 16, 4.0, 4
# How much worse it is to lie over another name, or a row farther off, than over a point of a line.
ON_A_NAME, FARTHER = 1000.0, 3.0
SAMPLE_PX = 8.0


def sampled(line: Array, room: tuple[float, float]) -> Array:
    """Points (N, 2) some px apart along the part of a line (M, 2) that lies in a room, in px."""
    line = line[np.isfinite(line).all(axis=1)]
    if len(line) < 2:
        return np.zeros((0, 2))
    # What runs far out of the room is no longer than a room beyond it.
    far = np.array(room)
    line = np.clip(line, -far, 2.0 * far)
    lengths = np.hypot(*np.diff(line, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(lengths)])
    at = np.arange(0.0, along[-1], SAMPLE_PX)
    points = np.stack([np.interp(at, along, line[:, 0]), np.interp(at, along, line[:, 1])], axis=1)
    inside = ((points >= 0.0) & (points <= np.array(room))).all(axis=1)
    return np.asarray(points[inside], dtype=float)


def name_places(
    lines: Mapping[str, Array],
    sizes: Mapping[str, tuple[float, float]],
    room: tuple[float, float],
    words: Sequence[Box] = (),
) -> dict[str, tuple[float, float]]:
    """The middle of each name in px: beside its curve, inside of the room.

    ``lines`` (N, 2) are points of each curve in px, ``sizes`` width and height of each name;
    ``words`` stand there already, each by its middle, width and height. Names are set one after
    the other, each where it lies over the fewest names and lines; a curve that has no part in the
    room has no place.
    """
    points = {key: sampled(line, room) for key, line in lines.items()}
    everything = np.concatenate([*points.values(), np.zeros((0, 2))])
    taken = list(words)
    places = {}
    for key, own in points.items():
        if not len(own):
            continue
        wide, high = sizes[key]
        step = max(1, len(own) // TRIED)
        beside = (wide / 2 + GAP, 0.0), (-wide / 2 - GAP, 0.0)
        rows = [
            (0.0, sign * (high / 2 + GAP + row * high))
            for row in range(ROWS)
            for sign in (-1.0, 1.0)
        ]
        shifts = np.array([*rows, *beside])
        farther = np.array([FARTHER * row for row in range(ROWS) for _ in range(2)] + [0.0, 0.0])
        tried = (own[::step, None, :] + shifts).reshape(-1, 2)
        half = np.array([wide, high]) / 2
        tried = np.clip(tried, half, np.maximum(np.array(room) - half, half))
        apart = np.abs(tried[:, None, :] - everything) < half
        worth = apart.all(axis=2).sum(axis=1) + np.tile(farther, len(own[::step]))
        for x, y, other_wide, other_high in taken:
            over_x = (wide + other_wide) / 2 - np.abs(tried[:, 0] - x)
            over_y = (high + other_high) / 2 - np.abs(tried[:, 1] - y)
            worth += np.where((over_x > 0.0) & (over_y > 0.0), ON_A_NAME + over_x, 0.0)
        x, y = tried[int(np.argmin(worth))]
        places[key] = (float(x), float(y))
        taken.append((float(x), float(y), wide, high))
    return places
