"""What bars which verdict."""

import pytest
from msgspec.structs import replace

from lumvak.core.as_found.audit import audited
from lumvak.core.as_found.risks import VERDICTS, worst_of
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue

PARTS = load_catalogue()[0]
SOUND = AsFound(
    begun=True,
    promised_a=15.0,
    promised_ah=10.0,
    cell="ostrel-18-25p",
    alike="alike",
    years=1.0,
    cycles=40.0,
    stored="half",
    series_cells=10,
    tap_wires=11,
    parallel=4,
    group_v=(3.7,) * 10,
    strips=4,
    layers=2,
    thickness_mm=0.2,
    width_mm=8.0,
    metal="nickel",
    leads_leave="spread",
    bms="there",
    bms_a=40.0,
    sense_leads=11,
    bleeds=True,
    fuse="there",
    fuse_a=30.0,
    lead_mm2=5.3,
    connector_a=45.0,
    held="holders",
    state="sound",
    charger="itself",
)


def test_a_pack_that_is_sound_in_everything_may_be_used() -> None:
    audit = audited(SOUND, PARTS)
    assert audit.risks == () and audit.verdict == audit.at_best == "use"
    assert audit.continuous.low > 15.0


@pytest.mark.parametrize(
    ("changes", "verdict", "code"),
    [
        ({"state": "swollen"}, "recycle", "state"),
        ({"state": None}, "recycle", "state"),
        ({"group_v": (3.7,) * 9 + (0.8,)}, "rebuild", "run-down"),
        ({"group_v": ()}, "rebuild", "run-down"),
        ({"group_v": (3.7,) * 9 + (3.5,)}, "use-within", "uneven"),
        ({"cell": None}, "use-within", "unknown-cells"),
        ({"alike": "mixed"}, "rebuild", "mixed"),
        ({"held": "glue"}, "rebuild", "glued"),
        ({"held": None}, "rebuild", "glued"),
        ({"fuse": "none", "fuse_a": None}, "use-within", "fuse"),
        ({"fuse": None, "fuse_a": None}, "use-within", "fuse"),
        ({"bms": "none", "bms_a": None}, "use-within", "no-bms"),
        ({"bleeds": False}, "use-within", "no-balance"),
        ({"sense_leads": 8}, "use-within", "sense-leads"),
        ({"charger": "bms"}, "use-within", "charger"),
        ({"promised_a": None}, "use-within", "no-promise"),
        ({"promised_a": 60.0}, "use-within", "less"),
        ({"strips": 1, "layers": 1, "thickness_mm": 0.1}, "use-within", "less"),
    ],
)
def test_each_by_itself(changes: dict[str, object], verdict: str, code: str) -> None:
    audit = audited(replace(SOUND, **changes), PARTS)
    assert audit.verdict == verdict
    assert code in {it.code for it in audit.reasons}


def test_a_charger_that_needs_the_bms_where_there_is_none() -> None:
    audit = audited(replace(SOUND, bms="none", bms_a=None, charger="bms"), PARTS)
    assert audit.verdict == "rebuild" and audit.reasons[0].code == "charger"


def test_what_was_not_seen_waits_and_at_best_it_is_sound() -> None:
    audit = audited(replace(SOUND, state=None, held=None), PARTS)
    assert (audit.verdict, audit.at_best) == ("recycle", "use")
    assert {it.field for it in audit.looks if it.lifts} == {"state", "held"}


def test_less_charge_than_sold_is_told_and_bars_nothing() -> None:
    audit = audited(replace(SOUND, measured_ah=4.0), PARTS)
    told = [spoken(it.text) for it in audit.risks]
    assert told == ["Sold with 10 Ah; it holds 3.88 Ah to 4.12 Ah"] and audit.verdict == "use"


def test_the_worst_of_verdicts() -> None:
    assert worst_of(()) == "use" and worst_of(("use", "rebuild", "use-within")) == "rebuild"
    assert VERDICTS.index("recycle") == 3
