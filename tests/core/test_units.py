import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core import units
from lumvak.core.spelling import Spelling, shown, shown_in
from lumvak.core.units import (
    AREA,
    LENGTH_M,
    LENGTH_MM,
    MASS,
    TEMPERATURE,
    VOLTAGE,
    QuantityError,
    parse,
    spell,
)


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [
        ("36V", units.VOLTAGE, 36.0),
        ("36,0 V", units.VOLTAGE, 36.0),
        ("36", units.VOLTAGE, 36.0),
        ("4200 mV", units.VOLTAGE, 4.2),
        ("7000 mAh", units.CAPACITY, 7.0),
        ("2.5Ah", units.CAPACITY, 2.5),
        ("350 mA", units.CURRENT, 0.35),
        ("0,15 mm", units.LENGTH_MM, 0.15),
        ("60 cm", units.LENGTH_M, 0.6),
        ("1 kWh", units.ENERGY, 1000.0),
        ("88 %", units.FRACTION, 0.88),
        ("88", units.FRACTION, 0.88),
        ("0.88", units.FRACTION, 0.88),
        ("1 h 20", units.HOURS, 80 / 60),
        ("1h05min", units.HOURS, 65 / 60),
        ("45 min", units.HOURS, 0.75),
        ("90 s", units.HOURS, 0.025),
        ("1 min 30", units.SECONDS, 90.0),
        ("8s", units.SECONDS, 8.0),
        ("\u22125 °C", units.TEMPERATURE, -5.0),
        ("-5C", units.TEMPERATURE, -5.0),
        ("50 F", units.TEMPERATURE, 10.0),
        ("12Wh/km", units.CONSUMPTION, 12.0),
        ("4 mm2", units.AREA, 4.0),
        (" 10 ", units.COUNT, 10.0),
        ("1e1 A", units.CURRENT, 10.0),
        ("20 amps", units.CURRENT, 20.0),
        ("48 volt", units.VOLTAGE, 48.0),
        ("2 amp-hours", units.CAPACITY, 2.0),
        ("0.5 kilowatt hours", units.ENERGY, 500.0),
        ("1:30", units.HOURS, 1.5),
        ("1:30", units.SECONDS, 90.0),
        ("13S", units.COUNT, 13.0),
        ("5p", units.COUNT, 5.0),
        ("3 miles", units.DISTANCE, 4.828032),
        ("20 percent", units.FRACTION, 0.2),
    ],
)
def test_what_people_type_is_read(text: str, kind: units.Kind, value: float) -> None:
    assert parse(text, kind) == pytest.approx(value)


@pytest.mark.parametrize(
    ("text", "kind"),
    [
        ("", units.VOLTAGE),
        ("nan", units.VOLTAGE),
        ("inf V", units.VOLTAGE),
        ("1e999 V", units.VOLTAGE),
        ("36 Ah", units.VOLTAGE),
        ("lots", units.CURRENT),
        ("3.5", units.COUNT),
        ("10 pieces", units.COUNT),
        ("1.2.3", units.CURRENT),
        ("AWG 99", units.AREA),
        ("--5", units.TEMPERATURE),
    ],
)
def test_what_cannot_be_read_says_what_could(text: str, kind: units.Kind) -> None:
    with pytest.raises(QuantityError) as caught:
        parse(text, kind)
    message = str(caught.value)
    assert "write" in message or "outside" in message


def test_a_comma_before_three_digits_is_not_guessed() -> None:
    with pytest.raises(QuantityError, match=r"7\.000 or 7000"):
        parse("7,000 mAh", units.CAPACITY)
    assert parse("0,125 mm", units.LENGTH_MM) == pytest.approx(0.125)


def test_pairs_want_a_colon_and_two_quantities() -> None:
    assert units.parse_pair("40A:8s", units.CURRENT, units.SECONDS) == (40.0, 8.0)
    with pytest.raises(QuantityError, match="colon"):
        units.parse_pair("40A", units.CURRENT, units.SECONDS)
    with pytest.raises(QuantityError, match="not a time"):
        units.parse_pair("40A:x", units.CURRENT, units.SECONDS)


@given(
    st.floats(min_value=1e-3, max_value=1e4, allow_nan=False),
    st.sampled_from([units.VOLTAGE, units.CURRENT, units.LENGTH_MM, units.SECONDS, units.ENERGY]),
)
def test_what_is_spelled_is_read_back(value: float, kind: units.Kind) -> None:
    assert parse(spell(value, kind), kind) == pytest.approx(value, rel=1e-9)


@given(st.integers(min_value=1, max_value=6000))
def test_whole_minutes_come_back_as_hours(minutes: int) -> None:
    assert parse(spell(minutes / 60, units.HOURS), units.HOURS) == pytest.approx(minutes / 60)


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [
        ("11 kv", units.KV, 11.0),
        ("11 rpm/V", units.KV, 11.0),
        ("860 g", units.MASS, 0.86),
        ("2 lb", units.MASS, 0.90718474),
        ("0,07 kg", units.GRAM, 70.0),
        ("22", units.MILLIOHM, 22.0),
        ("0.022 ohm", units.MILLIOHM, 22.0),
        ("1,5 Ω", units.MILLIOHM, 1500.0),
        ("4.4:1", units.RATIO, 4.4),
        ("4,4 x", units.RATIO, 4.4),
        ("249.90", units.MONEY, 249.9),
    ],
)
def test_quantities_of_cells_and_motors(text: str, kind: units.Kind, value: float) -> None:
    assert parse(text, kind) == pytest.approx(value)
    assert parse(spell(value, kind), kind) == pytest.approx(value)


def test_money_takes_no_unit() -> None:
    with pytest.raises(QuantityError, match="an amount of money"):
        parse("250 kg", units.MONEY)


@pytest.mark.parametrize(
    ("text", "kind", "says"),
    [
        ("1e308 kW", units.POWER, "too large"),
        ("1e5000", units.CURRENT, "too large"),
        ("9e307 h", units.HOURS, "too large"),
        ("1e-320", units.CURRENT, "too near to 0"),
        ("1e400", units.COUNT, "not a whole number"),
        ("9" * 5000, units.CURRENT, "too long"),
        ("1" * 5000 + " h 10", units.HOURS, "too long"),
        ("0." + "0" * 400 + "1 A", units.CURRENT, "too long"),
    ],
)
def test_what_nobody_means_is_refused_in_a_short_sentence(
    text: str, kind: units.Kind, says: str
) -> None:
    with pytest.raises(units.QuantityError, match=says) as caught:
        units.parse(text, kind)
    assert len(str(caught.value)) < 200


KINDS = (LENGTH_MM, LENGTH_M, TEMPERATURE, VOLTAGE, AREA, MASS, units.FRACTION, units.HOURS)
SPELLINGS = st.builds(Spelling, st.booleans(), st.booleans(), st.booleans(), st.booleans())


@given(SPELLINGS, st.sampled_from(KINDS), st.floats(0.001, 900.0))
def test_what_is_spelled_is_read_back_in_every_spelling(
    wanted: Spelling, kind: units.Kind, value: float
) -> None:
    # A wire within half a per cent of a gauge is that gauge.
    within = 5e-3 if kind is AREA and wanted.gauges else 6e-4
    read = parse(spell(value, kind, wanted), kind, wanted)
    assert read == pytest.approx(value, rel=within, abs=2e-4 if kind is TEMPERATURE else 3e-6)
    # What was said once is said the same again.
    again = parse(spell(read, kind, wanted), kind, wanted)
    assert spell(read, kind, wanted) == spell(again, kind, wanted)


@given(SPELLINGS, st.sampled_from((LENGTH_MM, LENGTH_M, TEMPERATURE)), st.integers(-40, 400))
def test_a_bare_number_means_the_unit_that_is_said(
    wanted: Spelling, kind: units.Kind, number: int
) -> None:
    said = f"{number} {shown_in(kind.unit, wanted)}"
    assert parse(str(number), kind, wanted) == pytest.approx(parse(said, kind, wanted))
    read = parse(said, kind, wanted)
    assert shown(read, kind.unit, wanted) == pytest.approx(number, abs=1e-9)


def test_a_thousand_and_a_decimal_are_told_apart_by_the_decimal_sign() -> None:
    with pytest.raises(QuantityError, match=r"1\.234 or 1234"):
        parse("1,234 V", VOLTAGE)
    assert parse("1.234 V", VOLTAGE) == pytest.approx(1.234)
    comma = Spelling(comma=True)
    with pytest.raises(QuantityError, match="1,234 or 1234"):
        parse("1.234 V", VOLTAGE, comma)
    assert parse("1,234 V", VOLTAGE, comma) == pytest.approx(1.234)


def test_what_would_be_accepted_is_in_the_units_that_are_preferred() -> None:
    wanted = Spelling(inches=True, fahrenheit=True, comma=True)
    with pytest.raises(QuantityError, match="such as 0,007874 in"):
        parse("x", LENGTH_MM, wanted)
    with pytest.raises(QuantityError, match="such as 77 °F"):
        parse("x", TEMPERATURE, wanted)


@pytest.mark.parametrize("spelling", [Spelling(), Spelling(comma=True)])
@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("1.234,5 W", 1234.5),
        ("1,234.5W", 1234.5),
        ("1 234,5", 1234.5),
        ("1\u202f234.5 W", 1234.5),
        ("1'234.5", 1234.5),
        ("12 345 W", 12345.0),
        ("1,234,567", 1234567.0),
        ("1.234.567 W", 1234567.0),
        ("-1.234,5", -1234.5),
        ("1.2 kW", 1200.0),
    ],
)
def test_thousands_that_are_set_apart_are_read_whatever_the_sign(
    spelling: Spelling, text: str, value: float
) -> None:
    assert parse(text, units.POWER, spelling) == pytest.approx(value)


@pytest.mark.parametrize("text", ["1 23 W", "1,23,456", "1.234,56.7", "12 3456", "1,234.567,8"])
def test_what_is_no_number_set_apart_is_refused(text: str) -> None:
    with pytest.raises(QuantityError):
        parse(text, units.POWER)


def test_where_two_readings_are_left_both_are_named() -> None:
    with pytest.raises(QuantityError, match=r"could be 1\.234 or 1234"):
        parse("1,234", units.POWER)
    with pytest.raises(QuantityError, match="could be 1,234 or 1234"):
        parse("1.234", units.POWER, Spelling(comma=True))


@given(st.integers(0, 10**9), st.integers(0, 999), st.sampled_from([" ", "'", "\u00a0", ".", ","]))
def test_numbers_as_others_print_them_come_back(whole: int, rest: int, apart: str) -> None:
    """Held against the formatting of Python: a thousands sign of one's own, and the other one."""
    sign = "," if apart == "." else "."
    text = f"{whole:,}".replace(",", "\0").replace("\0", apart) + f"{sign}{rest:03d}"
    if whole >= 1000 or apart not in ".,":
        assert parse(text, units.POWER, Spelling(comma=sign == ",")) == pytest.approx(
            whole + rest / 1000
        )
