"""Steps that strengthen a found pack."""

from itertools import pairwise

from msgspec.structs import replace

from lumvak.core.as_found.known import known_of
from lumvak.core.as_found.limits import held_for, links_of
from lumvak.core.as_found.upgrades import upgrades_of
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from tests.core.as_found.test_limits import FOUND

PARTS = load_catalogue()[0]


def test_the_second_strip_doubles_what_one_strip_gives() -> None:
    known = known_of(FOUND, PARTS)
    first = upgrades_of(FOUND, known, PARTS)[0]
    now = held_for(links_of(FOUND, known), 0).value
    assert first.link == "series-joints" and first.from_a == now
    assert spoken(first.what) == "one strip more on each series connection"
    # Nine joints of 20 mm and 4 minutes each, once the wrapper is off.
    assert first.minutes == 30.0 + 9 * 4.0
    assert first.cost is not None and 0.0 < first.cost < 1.0
    after = links_of(replace(FOUND, strips=2), known)
    assert first.to_a == held_for(after, 0).value


def test_each_step_begins_where_the_one_before_ends() -> None:
    steps = upgrades_of(replace(FOUND, promised_a=50.0), known_of(FOUND, PARTS), PARTS)
    assert len(steps) > 2
    for one, two in pairwise(steps):
        assert two.from_a == one.to_a and two.to_a >= two.from_a


def test_nothing_is_bought_past_what_was_promised() -> None:
    wanted = replace(FOUND, promised_a=10.0)
    assert upgrades_of(wanted, known_of(wanted, PARTS), PARTS) == ()


def test_what_nobody_saw_is_strengthened_as_it_likely_is() -> None:
    bare = AsFound(parallel=4, cell="ostrel-18-25p", series_cells=10, connector_a=8.0)
    first = upgrades_of(bare, known_of(bare, PARTS), PARTS)[0]
    assert first.link == "connector" and first.to_a > first.from_a


def test_where_nothing_is_on_offer_it_is_said() -> None:
    wide = replace(FOUND, bms="there", bms_a=5.0, series_cells=37)
    step = upgrades_of(wide, known_of(wide, PARTS), PARTS)[-1]
    assert step.cost is None and spoken(step.what) == "a stronger BMS: nothing on offer"
