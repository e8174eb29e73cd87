"""The page about a found pack."""

from msgspec.structs import replace

from lumvak.core.as_found.audit import audited
from lumvak.core.record_of_pack.found_page import found_page, verdict_said
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from tests.core.as_found.test_risks import SOUND

PARTS = load_catalogue()[0]


def test_the_verdict_says_its_limits_and_what_it_waits_for() -> None:
    within = spoken(verdict_said(audited(replace(SOUND, bleeds=False), PARTS)))
    assert within.startswith("May be used within these limits: ") and "for 10 s" in within
    waits = spoken(verdict_said(audited(replace(SOUND, state=None), PARTS)))
    assert waits == (
        "To be recycled, as long as not all was seen; where the rest is sound: may be used"
    )
    assert spoken(verdict_said(audited(SOUND, PARTS))) == "May be used"


def test_the_page_has_all_that_an_owner_needs() -> None:
    page = found_page(
        audited(replace(SOUND, promised_a=60.0, fuse="none", fuse_a=None), PARTS), "X"
    )
    assert page.title == "X, as found"
    keys = [it.key for it in page.parts]
    assert keys == ["verdict", "gives", "steps", "looks", "care"]
    rows = page.parts[0].tables[0].rows
    assert any("no main fuse" in spoken(it[0]) for it in rows)
    sound = found_page(audited(replace(SOUND, promised_a=5.0), PARTS), "X")
    assert "steps" not in [it.key for it in sound.parts]
