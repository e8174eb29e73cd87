"""A search finds what is hidden in packs that another model makes."""

import pytest

from lumvak.bench.practise.levels import FIRST_SEED, LEVELS, Level, level_of, pack_of
from lumvak.bench.practise.search import (
    CAUSE_OF,
    acts_of,
    case_of_bench,
    complaint_of,
    next_here,
    search_readings,
    searched,
    walk,
)
from lumvak.bench.practise.trail import ACTS, READ, Act, Done, HiddenPack
from lumvak.bench.simulated.faults import FAULTS, Hidden
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.trouble.causes import BY_NAME
from lumvak.core.trouble.diagnosis import grouped
from lumvak.core.trouble.proposing import Proposed

FOUND = (
    "flat-group",
    "open-fuse",
    "swapped-leads",
    "open-lead",
    "misread-group",
    "dead-charger",
    "short-stopping-charger",
    "lost-cell",
)
COMPLAINTS = {it.faults[0]: it.complaint for it in LEVELS if len(it.faults) == 1}


@pytest.fixture(scope="module")
def pack(catalogue: Catalogue) -> BenchPack:
    return pack_of(level_of(12), catalogue)


def wanted(place: str, state: str = "rest", amount: float = 0.0) -> Proposed:
    return Proposed(place, state, amount, in_ohm=False, bits=1.0, effort="", weight=1.0)


def read(place: str, value: float, state: str = "awake") -> Done:
    return Done(Act(READ, place), state, value, "V")


@pytest.mark.parametrize("place", [1, 3, 5])
@pytest.mark.parametrize("fault", FOUND)
def test_the_fault_is_first_where_another_model_of_a_pack_has_it(
    pack: BenchPack, fault: str, place: int
) -> None:
    hidden = Hidden(fault, place if fault not in ("open-fuse",) and "charger" not in fault else 0)
    level = Level(1, (fault,), pack.series, "", COMPLAINTS[fault])
    found, done = walk(level, FIRST_SEED, HiddenPack(pack, 3 + place, (hidden,)))
    first = grouped(found)[0]
    assert first.cause.name == CAUSE_OF[fault] and first.share > 0.8
    number = first.where.partition(":")[2]
    assert not number or int(number) == hidden.place + 1
    assert len(found.readings) <= 8 and not any(it.unsafe for it in done)


@pytest.mark.parametrize("seed", range(4))
def test_nothing_is_found_in_a_pack_with_nothing_wrong(pack: BenchPack, seed: int) -> None:
    found, _ = walk(level_of(10), FIRST_SEED, HiddenPack(pack, seed, ()))
    assert grouped(found)[0].cause.name == "sound" and found.enough


def test_every_fault_that_a_search_knows_is_one_of_its_causes() -> None:
    assert set(CAUSE_OF) < set(FAULTS) and set(CAUSE_OF.values()) < set(BY_NAME)


def test_all_groups_in_a_row_are_one_reading(pack: BenchPack) -> None:
    row = [read(f"group:{group}", 3.7) for group in range(1, pack.series + 1)]
    (whole,) = search_readings(pack, row)
    assert whole.place == "groups" and whole.value == (3.7,) * pack.series
    assert [it.place for it in search_readings(pack, row[1:])] == [
        f"group:{group}" for group in range(2, pack.series + 1)
    ]
    broken = [*row[:2], Done(Act("wait"), "awake"), *row[2:]]
    assert all(it.place != "groups" for it in search_readings(pack, broken))


def test_the_state_of_a_reading_is_what_was_done_before_it(pack: BenchPack) -> None:
    done = [
        read("terminals", 25.0, "asleep"),
        read("air", 20.0),
        read("terminals", 24.0, "awake, load on"),
        Done(Act("charger"), "awake"),
        # It has turned off by itself, and is still plugged in.
        read("terminals", 26.0),
        read("charger", 29.4),
        Done(Act("charger off"), "awake"),
        Done(Act("wait a day"), "awake"),
        read("shown:2", 0.1),
    ]
    found = [(it.place, it.state, it.amount, it.value) for it in search_readings(pack, done)]
    assert found == [
        ("terminals", "asleep", 0.0, 25.0),
        ("terminals", "load", pack.load_a, 24.0),
        ("terminals", "charge", pack.charge_a, 26.0),
        ("charger", "rest", 0.0, 29.4),
        ("shown:2", "after", 86_400.0, "nothing"),
    ]


def test_what_is_to_be_done_brings_the_pack_into_the_state(pack: BenchPack) -> None:
    def acts(it: Proposed, state: str, *done: Done) -> list[tuple[str, str]]:
        return [(act.do, act.place) for act in acts_of(it, done, state, pack.series)]

    stopped = acts(wanted("terminals"), "asleep, load on")
    assert stopped == [("load off", ""), ("wake", ""), (READ, "terminals")]
    charged = Done(Act("charger"), "awake")
    loaded = acts(wanted("fuse", "load", pack.load_a), "awake", charged)
    assert loaded == [("charger off", ""), ("load", ""), (READ, "fuse")]
    waited = acts(wanted("group:2", "after", 86_400.0), "awake")
    assert waited == [("wait a day", ""), (READ, "group:2")]
    assert len(acts(wanted("groups"), "awake")) == pack.series
    assert all(act in ACTS or act == READ for act, _ in acts(wanted("shown"), "awake"))


def test_other_packs_of_a_level_have_no_complaint(pack: BenchPack) -> None:
    assert complaint_of(level_of(3), FIRST_SEED) == "no-charge"
    assert complaint_of(level_of(3), FIRST_SEED + 1) == "none"


def test_only_what_can_be_read_here_is_asked_for(pack: BenchPack) -> None:
    found = searched(level_of(2), FIRST_SEED, pack, [])
    asked = next_here(found, pack)
    assert asked is not None and not asked.in_ohm and not asked.place.startswith("tap")
    case = case_of_bench(pack)
    assert case.series == pack.series and case.charger_v == pytest.approx(pack.full_v)
