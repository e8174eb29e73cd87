"""Readings tell what they should, and steps that could hurt are named."""

import pytest

from lumvak.bench.practise.levels import LEVELS, Level, level_of, pack_of
from lumvak.bench.practise.trail import (
    ACTS,
    READ,
    Act,
    HiddenPack,
    hidden_said,
    hypotheses,
    places,
    score_of,
    told,
    told_said,
)
from lumvak.bench.simulated.faults import FAULTS, Hidden, places_of
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.proving.bench_pack import BenchPack

GROUPS = 5
LOOK = [Act(READ, f"group:{group}") for group in range(1, GROUPS + 1)]


def taken(pack: BenchPack, hidden: tuple[Hidden, ...], acts: list[Act], seed: int = 3):  # type: ignore[no-untyped-def]
    hand = HiddenPack(pack, seed, hidden)
    return [hand.do(act) for act in acts]


@pytest.fixture(scope="module")
def small(catalogue: Catalogue) -> BenchPack:
    return pack_of(level_of(2), catalogue)


def level(*faults: str) -> Level:
    return Level(1, faults, GROUPS, "")


def test_every_place_can_be_read_and_everything_be_done(small: BenchPack) -> None:
    hand = HiddenPack(small, 1, ())
    for names in places(GROUPS).values():
        for name in names:
            done = hand.do(Act(READ, name))
            assert done.value is not None and done.unit in ("V", "°C") and not done.unsafe
    for name in ACTS:
        hand.do(Act(name))
    assert "awake" in hand.state


def test_the_reading_that_tells_is_the_one_at_the_fault(small: BenchPack) -> None:
    hidden = (Hidden("worn-connector"),)
    acts = [*LOOK, Act("wake"), Act("load"), Act(READ, "fuse"), Act(READ, "connector")]
    done = taken(small, hidden, acts)
    found = told(small, level("worn-connector"), hidden, done)
    assert max(range(len(acts)), key=lambda place: found.bits[place]) == len(acts) - 1
    assert found.bits[-1] > 2.0 and found.sure > 0.9
    assert found.bits[5] == found.bits[6] == 0.0


def test_bits_add_up_to_what_one_may_be_sure_of(small: BenchPack) -> None:
    """The sum of all bits is the logarithm of the share at the end over that at the beginning."""
    hidden = (Hidden("flat-group", 2),)
    found = told(small, level("flat-group"), hidden, taken(small, hidden, LOOK))
    every = hypotheses(small, level("flat-group"))
    kinds = {tuple(it.fault for it in item) for item in every}
    begun = 1.0 / len(kinds) / places_of(small, "flat-group")
    assert begun * 2.0 ** sum(found.bits) == pytest.approx(found.sure)
    assert found.sure > 0.5


def test_nothing_wrong_is_among_what_may_be(small: BenchPack) -> None:
    every = hypotheses(small, level("flat-group"))
    assert () in every and len(set(every)) == len(every)
    assert len(every) == 1 + sum(places_of(small, fault) for fault in FAULTS)
    pairs = hypotheses(small, level_of(20))
    assert all(len(item) == 2 for item in pairs)
    assert {tuple(it.fault for it in item) for item in pairs} == {
        it.faults for it in LEVELS if it.pairs
    }


def test_unsafe_steps_are_named(small: BenchPack) -> None:
    early, bridged, after, alone = taken(
        small, (), [Act("load"), Act("bridge"), LOOK[0], Act("wait a week")]
    )
    assert "before any group was read" in early.unsafe and "nothing opens" in bridged.unsafe
    assert not after.unsafe and "left alone" in alone.unsafe
    assert not taken(small, (), [LOOK[0], Act("load")])[1].unsafe


def test_a_bms_that_trips_low_shows_it_where_it_is_pulled(small: BenchPack) -> None:
    acts = [LOOK[0], Act("wake"), Act("pull")]
    sound, low = (taken(small, hidden, acts)[-1] for hidden in ((), (Hidden("bms-trips-low"),)))
    assert sound.value is not None and low.value is not None
    assert sound.value > 0.7 * small.full_v > 5.0 > low.value


def test_an_answer_is_right_by_what_and_by_where() -> None:
    hidden = (Hidden("weak-group", 3), Hidden("worn-connector"))
    assert score_of(hidden[::-1], hidden).place_right
    near = score_of((Hidden("weak-group", 2), Hidden("worn-connector")), hidden)
    assert near.right and not near.place_right
    assert not score_of((), hidden).right and score_of((), ()).place_right


def test_it_is_said_in_words() -> None:
    assert hidden_said(()) == "nothing was wrong"
    assert hidden_said((Hidden("weak-group", 3),)).endswith("group 4")
    assert hidden_said((Hidden("broken-joint", 0),)).endswith("between groups 1 and 2")
    assert hidden_said((Hidden("swapped-leads", 1),)).endswith("leads 2 and 3")
    words = [told_said(bits, True) for bits in (3.0, 0.6, 0.2, 0.0, -1.0)]
    assert words == [
        "told most",
        "told something",
        "told a little",
        "told nothing",
        "pointed elsewhere",
    ]
    assert told_said(2.0, False) == ""
