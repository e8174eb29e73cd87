"""Searches in packs whose fault is known: the short form of ./bench trouble."""

from tools.trouble import one_pair, one_single, one_sound, one_strange

from lumvak.core.trouble.case import case_of
from lumvak.core.trouble.diagnosis import diagnosed, grouped, share_of
from lumvak.core.trouble.readings import TroubleReading
from lumvak.files.catalogue_file import load_catalogue
from tests.length import so_many

CASE = case_of(14, load_catalogue()[0].chemistries["nmc"])
THREE = [
    TroubleReading("terminals", value="jumps"),
    TroubleReading("pack", value=51.5),
    TroubleReading("groups", value="alike"),
]


def test_most_are_found_in_few_readings() -> None:
    singles = so_many(20, 40)
    found = [one_single(seed) for seed in range(singles)]
    assert sum(it.rank == 0 for it in found) >= 0.9 * singles
    assert sorted(it.readings for it in found)[singles // 2] <= 3
    assert sum(one_sound(seed).rank == 0 for seed in range(10)) >= 9
    assert sum(one_strange(seed).rank == 0 for seed in range(10)) >= 8
    assert sum(one_pair(seed).rank <= 2 for seed in range(10)) >= 9


def test_volts_that_jump_behind_steady_cells_are_the_bms() -> None:
    found = diagnosed(CASE, "jumps", THREE)
    assert found.ranked[0].cause.name == "bms-leaky" and found.ranked[0].share > 0.75
    shares = [share_of(it, found.ranked[0]) for it in found.courses]
    assert shares == sorted(shares)
    assert [it.reading.place for it in found.trail] == ["terminals", "pack", "groups"]
    assert found.trail[0].after == found.trail[1].before


def test_a_low_group_is_named_with_its_place() -> None:
    row = tuple(3.2 if at == 8 else 3.7 for at in range(14))
    found = diagnosed(CASE, "low-group", [TroubleReading("groups", value=row)])
    assert found.ranked[0].where == "group:9" and found.ranked[0].share > 0.75
    assert grouped(found)[0].where == "group:9"


def test_a_charger_that_gives_nothing_is_enough() -> None:
    found = diagnosed(CASE, "no-charge", [TroubleReading("charger", value="nothing")])
    assert found.ranked[0].cause.name == "charger-dead" and found.enough and found.next is None


def test_before_its_place_is_known_a_cause_is_one() -> None:
    whole = grouped(diagnosed(CASE, "low-group"))
    assert len({it.cause.name for it in whole}) == len(whole)
    assert whole[0].cause.where == "group" and whole[0].where == "group"


def test_the_order_of_the_next_is_by_what_it_tells_for_its_effort() -> None:
    nexts = diagnosed(CASE, "dead").nexts
    worth = [it.worth for it in nexts]
    assert worth == sorted(worth, reverse=True)


def test_a_pack_is_not_called_sound_before_its_output_and_groups_were_read() -> None:
    """Half of all volts at the output with groups that are fine is no sound pack."""
    readings = [
        TroubleReading("shown", value=(3.8,) * 14),
        TroubleReading("shown", "load", 10.0, (3.68,) * 14),
        TroubleReading("charger", value=58.8),
    ]
    found = diagnosed(CASE, "short-range", readings)
    assert found.ranked[0].cause.name == "sound" and not found.enough
    assert found.next is not None and found.next.place == "terminals"
    whole = diagnosed(CASE, "short-range", [*readings, TroubleReading("terminals", value=53.2)])
    assert whole.ranked[0].cause.name == "sound" and whole.enough
    half = diagnosed(CASE, "short-range", [*readings, TroubleReading("terminals", value=26.6)])
    assert half.ranked[0].cause.name == "something-else"
    # Who cannot read it is not asked for it again.
    assert diagnosed(CASE, "short-range", readings, ("terminals",)).enough
