"""Which way groups point, against all ways tried."""

from itertools import pairwise, product

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.arrangement.orientation import JOINED, orientations


@given(
    st.lists(st.sampled_from(["face", "right", "left", "none"]), min_size=1, max_size=8),
    st.integers(1, 4),
)
def test_no_other_way_joins_more(links: list[str], strips: int) -> None:
    joint = np.repeat(np.arange(len(links)), strips)
    kind = np.repeat(links, strips)
    onwards = np.where(kind == "right", 1, np.where(kind == "left", -1, 0))
    turned, fronts = orientations(len(links) + 1, joint, kind == "face", onwards)

    def worth(way: tuple[bool, ...]) -> int:
        good = 0
        for link, (one, other) in zip(links, pairwise(way), strict=True):
            fine = (link == "face" and one != other) or (
                one == other and link == ("left" if one else "right")
            )
            good += (JOINED + strips) * fine
        return good

    best = max(map(worth, product((False, True), repeat=len(links) + 1)))
    assert worth(tuple(turned.tolist())) == best
    assert (fronts > 0).sum() == best // (JOINED + strips)
