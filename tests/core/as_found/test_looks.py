"""What to look at next."""

from msgspec.structs import replace

from lumvak.core.as_found.audit import audited
from lumvak.core.as_found.looks import LOOKS, WEIGHS, at_once
from lumvak.core.document.afterwards.as_found import FIELDS, AsFound
from lumvak.files.catalogue_file import load_catalogue
from tests.core.as_found.test_risks import SOUND

PARTS = load_catalogue()[0]


def test_every_field_can_be_looked_at_in_some_way() -> None:
    assert set(LOOKS) == set(FIELDS)
    assert {effort for effort, _ in LOOKS.values()} == set(WEIGHS)
    looks = audited(AsFound(begun=True), PARTS).looks
    assert len({it.words for it in looks}) == len(looks) == len(FIELDS)


def test_the_strip_that_sets_the_rating_is_what_tells_most() -> None:
    """All is known but how many strips there are: that alone closes the band."""
    strong = {"bms_a": 200.0, "fuse_a": 200.0, "connector_a": 200.0, "lead_mm2": 25.0}
    whole = replace(SOUND, strips=None, promised_a=60.0, layers=1, thickness_mm=0.1, **strong)
    looks = audited(whole, PARTS).looks
    assert max(looks, key=lambda it: it.closes_a).field == "strips"


def test_what_the_verdict_waits_for_comes_first() -> None:
    looks = audited(replace(SOUND, fuse=None, fuse_a=None, years=None), PARTS).looks
    assert {it.field for it in looks[:2]} == {"fuse", "fuse_a"} and looks[0].lifts
    assert not any(it.lifts for it in looks if it.field == "years")


def test_a_charge_test_closes_the_band_of_the_charge() -> None:
    look = next(it for it in audited(SOUND, PARTS).looks if it.field == "measured_ah")
    assert 0.5 < look.closes_ah < 1.0 and look.closes_a == 0.0


def test_what_is_not_there_is_not_looked_at() -> None:
    none = replace(SOUND, bms="none", bms_a=None, sense_leads=None, bleeds=None)
    fields = {it.field for it in audited(none, PARTS).looks}
    assert not fields & {"bms_a", "switches", "shunt_mohm", "sense_leads", "bleeds", "form"}


def test_one_effort_shows_all_that_it_shows() -> None:
    found = AsFound(begun=True)
    looks = audited(found, PARTS).looks
    every = at_once(found, PARTS, looks)
    assert [it.effort for it in every] == list(WEIGHS)
    assert sum(len(it.fields) for it in every) == len(FIELDS)
    off = next(it for it in every if it.effort == "wrapper off")
    alone = max(it.closes_a for it in looks if it.effort == "wrapper off")
    assert off.closes_a > alone
