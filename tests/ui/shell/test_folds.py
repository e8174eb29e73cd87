from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.ui.shell.folds import Folds, short_of_room

ALL = {"line": True, "margin": True, "path": True}
SIZES = st.tuples(st.integers(600, 3000), st.integers(400, 2000), st.integers(75, 250))


@pytest.mark.parametrize(
    ("size", "short"),
    [
        ((1280, 800, 100), set()),
        ((1024, 700, 100), {"margin", "path"}),
        ((1280, 800, 125), {"margin", "path"}),
        ((960, 640, 150), {"line", "margin", "path"}),
    ],
)
def test_what_folds_by_itself(size: tuple[int, int, int], short: set[str]) -> None:
    assert short_of_room(*size) == short


@given(SIZES, SIZES)
def test_more_room_folds_nothing_more(
    one: tuple[int, int, int], other: tuple[int, int, int]
) -> None:
    roomy = (max(one[0], other[0]), max(one[1], other[1]), min(one[2], other[2]))
    assert short_of_room(*roomy) <= short_of_room(*one)


def test_by_hand_holds_until_the_room_changes() -> None:
    folds = Folds(ALL)
    assert not folds.fit(frozenset())
    folds.turn("path", folded=True)
    assert folds.folded("path")
    assert folds.fit(frozenset({"margin", "path"}))
    assert folds.folded("margin")
    folds.turn("margin", folded=False)
    assert not folds.folded("margin")
    # What was opened over the stage is no wish for the wide window, and ends with its room.
    assert folds.shown == {"line": True, "margin": True, "path": False}
    rooms = [frozenset(), frozenset({"margin"})]
    for before, after in pairwise([folds.short, *rooms]):
        assert folds.fit(after) == (before != after)
    assert folds.folded("margin")
    assert folds.folded("path")


def test_at_the_bench_the_path_is_a_line_until_it_is_asked_for() -> None:
    folds = Folds(ALL)
    assert not folds.folded("path")
    folds.stand_at("hand", bench=True)
    assert folds.folded("path") and not folds.folded("margin")
    folds.turn("path", folded=False)
    assert not folds.folded("path") and folds.paths == {"hand": True}
    # Each stage remembers its own; on paper it is as it was.
    folds.stand_at("taps", bench=True)
    assert folds.folded("path")
    folds.stand_at("need", bench=False)
    assert not folds.folded("path") and folds.shown == ALL
    again = Folds(folds.shown, folds.paths)
    again.stand_at("hand", bench=True)
    assert not again.folded("path")
