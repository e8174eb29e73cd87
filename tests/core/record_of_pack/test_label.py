"""What stands on labels."""

from msgspec.structs import replace

from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.record_of_pack.label import charger_label_of, gauge_said, label_of
from lumvak.core.spelling import spoken

PACK = Passport(
    name="Kayak thruster",
    chemistry="iron phosphate",
    series=8,
    parallel=2,
    capacity_ah=30.0,
    full_v=29.2,
    empty_v=20.0,
    continuous_a=40.0,
    peak_a=60.0,
    peak_s=10.0,
    charge_v=29.2,
    charge_a=10.0,
    tail_a=1.5,
    charge_min_c=0.0,
    charge_max_c=45.0,
    built="2026-05-31",
)


def said(passport: Passport) -> str:
    facts = label_of(passport)
    return "\n".join(spoken(it.text) for it in facts.lines) + "\n".join(map(spoken, facts.cautions))


def test_the_limits_stand_on_it() -> None:
    text = said(PACK)
    for words in (
        "8 in series, 2 in parallel: 16 cells, iron phosphate",
        "30 Ah designed; full 29.2 V, empty 20 V",
        "40 A continuous, 60 A for 10 s",
        "full under 1.5 A; rating assumed",
        "charge to 29.2 V, at most 10 A",
        "charge at 0 °C to 45 °C",
        "built 2026-05-31",
        "never charge unwatched",
    ):
        assert words in text, words
    assert "MODIFIED" not in text and "Dangerous" not in text and "use at" not in text


def test_what_is_modified_or_dangerous_says_so() -> None:
    text = said(replace(PACK, modified=True, full_v=84.0, bms="Gate 20", fuse_a=50.0))
    assert "MODIFIED" in text and "Dangerous to touch: up to 84 V DC" in text
    assert "BMS Gate 20, fuse 50 A" in text


def test_the_charger_names_its_pack_and_has_no_code() -> None:
    facts = charger_label_of(PACK, "Brook 8")
    text = " ".join(spoken(it.text) for it in facts.lines)
    assert facts.passport is None and "Only for: Kayak thruster Brook 8 29.2 V, 10 A" in text


def test_a_fuel_gauge_is_told_what_it_wants_set() -> None:
    assert spoken(gauge_said(PACK)) == (
        "fuel gauge: 30 Ah, full at 29.2 V and under 1.5 A, empty at 20 V"
    )
    assert spoken(gauge_said(replace(PACK, tail_a=None))) == "fuel gauge: 30 Ah, empty at 20 V"
