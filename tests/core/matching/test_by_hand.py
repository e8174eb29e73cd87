"""Dealing by hand: the fold and the snake."""

from itertools import chain

import pytest

from lumvak.core.matching.by_hand import as_they_come, fold, snake
from tests.core.matching.pools import TWELVE, pool


def test_the_worked_fold_of_six() -> None:
    folded = fold(pool((2412, 2371, 2340, 2301, 2264, 2215), 3, 2))
    assert sorted(folded.group_ah * 1000.0) == pytest.approx([4627.0, 4635.0, 4641.0])


def test_a_fold_leaves_the_middle_over() -> None:
    folded = fold(pool(TWELVE, 4, 3))
    sums = [set(group) for group in folded.numbers()]
    # Pairs 1 and 12, 2 and 11, 3 and 10, 4 and 9; then 5, 6, 7, 8 as they follow.
    assert sums == [{1, 12, 5}, {2, 11, 6}, {3, 10, 7}, {4, 9, 8}]
    assert as_they_come(pool(TWELVE, 4, 3)).numbers()[0] == [1, 2, 3]


def test_the_snake_goes_there_and_back() -> None:
    assert snake(pool(TWELVE, 4, 3)).numbers()[0] == [1, 8, 9]


def test_who_is_pinned_sits_there_and_the_rest_go_on() -> None:
    dealt = snake(pool(TWELVE, 4, 3, pins={12: 0, 11: 0}))
    assert set(dealt.numbers()[0]) >= {11, 12}
    assert sorted(chain(*dealt.numbers())) == list(range(1, 13))
