"""Old and new groups side by side: what each is, and what flows when they are joined."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.document.hand import OldGroup, OldPack
from lumvak.core.matching.matched import GroupNow, LotKind
from lumvak.core.matching.old_and_new import (
    OldAndNew,
    OldOrNew,
    apart_in_resistance,
    joined,
    new_of,
    old_of,
    recipe_of,
    worn_limit_a,
)


def kind_of(catalogue: Catalogue, name: str = "ostrel-21-48") -> LotKind:
    cell = catalogue.cells[name]
    chemistry = catalogue.chemistry_of(cell)
    return LotKind(cell, chemistry.family, behaviour_of(cell, chemistry))


@pytest.fixture
def kind(catalogue: Catalogue) -> LotKind:
    return kind_of(catalogue)


def side(kind: LotKind, ah: float, mohm: float, volts: float, parallel: int = 2) -> OldOrNew:
    return OldOrNew(
        kind, parallel, *(np.array([value]) for value in (ah, mohm * 1e-3, volts)), True
    )


def test_what_was_not_measured_is_the_sheets(kind: LotKind) -> None:
    rated = kind.cell.capacity_typical_ah
    groups = (OldGroup(ah=1.9 * rated, mohm=12.0, volts=3.7), OldGroup(ah=2.1 * rated), OldGroup())
    old = old_of(OldPack(groups=groups), kind)
    # Nobody said how many are in parallel; two is what they hold.
    assert old.parallel == 2
    assert old.ah == pytest.approx([1.9 * rated, 2.1 * rated, 2.0 * rated])
    assert old.ohm == pytest.approx([0.012, *[kind.behaviour.ten_second_ohm / 2] * 2])
    assert not old.measured
    assert np.isnan(old.volts).tolist() == [False, True, True]
    said = old_of(OldPack(groups=groups, parallel=3), kind)
    assert said.parallel == 3
    assert said.ah[2] == pytest.approx(3.0 * rated)
    new = new_of((GroupNow(1, (1, 2), 9.0, 80.0, 3.6, None),), kind, 1, 2)
    assert (new.ah[0], new.ohm[0], new.volts[0], new.measured) == (9.0, 1 / 80.0, 3.6, True)
    unplaced = new_of((), kind, 3, 2)
    assert unplaced.ah == pytest.approx(2.0 * rated)
    assert not unplaced.measured


def test_the_worked_pair_of_groups(kind: LotKind) -> None:
    pair = joined(side(kind, 8.0, 28.0, 3.78), side(kind, 8.0, 31.0, 3.60))
    assert pair.current_a[0] == pytest.approx(0.18 / (0.028 + 0.031))
    assert pair.current_a[0] == pytest.approx(3.05, abs=0.005)
    assert not pair.to_old[0]
    assert pair.may_join


@given(
    st.floats(3.2, 4.1),
    st.floats(3.2, 4.1),
    st.floats(1.0, 30.0),
    st.floats(1.0, 30.0),
)
def test_no_charge_is_lost_and_both_come_to_rest_between(
    catalogue: Catalogue, old_v: float, new_v: float, old_ah: float, new_ah: float
) -> None:
    kind = kind_of(catalogue)
    old, new = side(kind, old_ah, 10.0, old_v), side(kind, new_ah, 10.0, new_v)
    pair = joined(old, new)
    together = float(pair.together_v[0])
    assert min(old_v, new_v) - 1e-9 <= together <= max(old_v, new_v) + 1e-9
    curve = kind.behaviour
    gained = [
        float(np.interp(volts, curve.rest_v, curve.rest_charge))
        for volts in (together, old_v, new_v)
    ]
    lost = old_ah * (gained[1] - gained[0]) + new_ah * (gained[2] - gained[0])
    assert lost == pytest.approx(0.0, abs=1e-6 * (old_ah + new_ah))
    moved = abs(old_ah * (gained[1] - gained[0])) * curve.capacity_scale
    assert float(pair.flows_ah[0]) == pytest.approx(moved, abs=1e-6 * (old_ah + new_ah))


def test_the_lower_one_sets_the_limit_and_the_recipe_keeps_to_it(kind: LotKind) -> None:
    old, new = side(kind, 10.0, 6.0, 3.5, parallel=2), side(kind, 10.0, 6.0, 4.1, parallel=3)
    pair = joined(old, new)
    assert pair.to_old[0]
    assert pair.limit_a[0] == pytest.approx(old.charge_a)
    assert not pair.may_join
    recipe = recipe_of(OldAndNew(old, new, pair))
    assert recipe is not None
    assert 0.6 / (recipe.ohm + 0.012) <= 0.4 * old.charge_a
    assert recipe.watts == pytest.approx((0.6 / (recipe.ohm + 0.012)) ** 2 * recipe.ohm)
    assert joined(new, old).limit_a[0] == pytest.approx(old.charge_a)
    unread = joined(side(kind, 10.0, 6.0, np.nan), new)
    assert unread.may_join
    assert np.isnan(unread.current_a[0])
    assert recipe_of(OldAndNew(old, new, unread)) is None


def test_a_worn_cell_warms_no_more_than_a_new_one(kind: LotKind) -> None:
    sheet = kind.behaviour.ten_second_ohm
    worn = side(kind, 8.0, 4.0 * sheet * 1e3 / 2, 3.7)
    limit = worn_limit_a(worn)
    assert limit == pytest.approx(kind.cell.continuous_a / 2.0)
    assert limit**2 * 4.0 * sheet == pytest.approx(kind.cell.continuous_a**2 * sheet)
    assert worn_limit_a(side(kind, 8.0, 1.0, 3.7)) == kind.cell.continuous_a


def test_resistances_are_compared_for_the_same_capacity(kind: LotKind) -> None:
    # Twice the cells have half the resistance: nothing is apart.
    even = OldAndNew(side(kind, 10.0, 10.0, 3.7), side(kind, 5.0, 20.0, 3.7))
    assert apart_in_resistance(even) == pytest.approx(1.0)
    uneven = OldAndNew(side(kind, 4.0, 20.0, 3.7), side(kind, 5.0, 40.0, 3.7))
    assert apart_in_resistance(uneven) == pytest.approx(2.5)
