"""Twenty levels, each of them made up from what can be wrong, and the same for the same seed."""

import pytest

from lumvak.bench.practise.levels import LEVELS, SAID, SOUND, hidden_in, level_of, pack_of
from lumvak.bench.simulated.faults import FAULTS, places_of
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.proving.bench_pack import BenchPack


def test_there_are_twenty_and_they_go_from_a_swapped_lead_to_two_faults() -> None:
    assert [it.number for it in LEVELS] == list(range(1, 21))
    assert LEVELS[0].faults == ("swapped-leads",)
    assert set(LEVELS[-1].faults) == {"worn-connector", "weak-group"}
    made_of = {fault for level in LEVELS for fault in level.faults}
    assert made_of == set(FAULTS) and () in {level.faults for level in LEVELS}
    assert set(SAID) == {SOUND, *FAULTS}


def test_what_an_owner_says_names_no_fault() -> None:
    for level in LEVELS:
        for fault in level.faults:
            assert fault not in level.says.lower() and FAULTS[fault] not in level.says


@pytest.mark.parametrize("number", [1, 10, 14, 20])
def test_the_same_seed_hides_the_same_in_a_place_that_there_is(
    bench_pack: BenchPack, number: int
) -> None:
    level = level_of(number)
    assert tuple(it.fault for it in hidden_in(level, 1, bench_pack)) == level.faults
    drawn = [hidden_in(level, seed, bench_pack) for seed in range(2, 60)]
    assert drawn == [hidden_in(level, seed, bench_pack) for seed in range(2, 60)]
    assert len({it.fault for items in drawn for it in items}) >= min(number, 3)
    for items in drawn:
        assert len(items) == 2 if level.pairs else len(items) <= 1
        assert all(0 <= it.place < places_of(bench_pack, it.fault) for it in items)


def test_the_pack_of_a_level_has_what_its_fault_needs(catalogue: Catalogue) -> None:
    pack = pack_of(level_of(16), catalogue)
    assert pack.series == 10 and pack.parallel == 4
    assert pack.board is not None and pack.board.protects
    # A fuse and a connector that can be worn or open, and a strip that gets warm.
    assert pack.parts_ohm[0] > 0.0 and pack.parts_ohm[3] > 0.0 and pack.strip_k > 1.0
