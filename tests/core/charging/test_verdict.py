"""Verdicts on chargers: every kind that is spoken of, and every way of being wrong."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.verdict import WORST, ChargerVerdict, verdict_on
from lumvak.core.spelling import spoken
from tests.core.charging.test_charger import setting_of, without_cut_off


def judged(
    catalogue: Catalogue,
    cell: str,
    series: int,
    volts: float,
    amps: float,
    kind: str = "cccv",
    **more: Any,
) -> ChargerVerdict:
    charger = Charger(id="one", volts=volts, amps=amps, kind=kind, **more)  # type: ignore[arg-type]
    return verdict_on(charger, setting_of(catalogue, cell, series))


@pytest.mark.parametrize(
    ("cell", "series", "volts", "amps", "kind", "more", "wanted"),
    [
        # Constant current and voltage, right within 0.5 %.
        ("ostrel-21-48", 13, 54.6, 2.0, "cccv", {}, "right"),
        ("ostrel-21-48", 13, 54.8, 2.0, "cccv", {}, "right"),
        ("ostrel-21-48", 13, 53.4, 2.0, "cccv", {}, "short"),
        ("ostrel-21-48", 13, 55.1, 2.0, "cccv", {}, "leans"),
        ("ostrel-21-48", 13, 55.2, 2.0, "cccv", {}, "wrong"),
        ("ostrel-21-48", 13, 58.8, 2.0, "cccv", {}, "wrong"),
        # Slips.
        ("ostrel-21-48", 13, 46.8, 2.0, "cccv", {}, "short"),
        # Another chemistry upwards: made for as many cobalt cells as there are phosphate ones.
        ("fennimor-b-105", 16, 67.2, 10.0, "cccv", {}, "wrong"),
        ("fennimor-b-105", 16, 58.4, 10.0, "cccv", {}, "right"),
        # And downwards.
        ("ostrel-21-48", 14, 51.1, 3.0, "cccv", {}, "short"),
        # A charger for lead: by its numbers, not its name.
        ("fennimor-b-105", 4, 14.6, 10.0, "lead", {"equalise": "off"}, "right"),
        ("fennimor-b-105", 4, 14.4, 10.0, "lead", {"equalise": "off"}, "short"),
        ("fennimor-b-105", 4, 14.4, 10.0, "lead", {"equalise": "on"}, "wrong"),
        ("fennimor-b-105", 4, 14.4, 10.0, "lead", {}, "wrong"),
        ("fennimor-b-105", 4, 14.8, 10.0, "lead", {"equalise": "off"}, "leans"),
        # A charger for nickel: no voltage at all, and far over the pack with nothing connected.
        ("ostrel-18-25p", 5, 21.0, 1.5, "nickel", {}, "leans"),
        ("ostrel-18-25p", 5, 21.0, 1.5, "nickel", {"open_v": 44.0}, "wrong"),
        # A bare supply.
        ("ostrel-21-48", 10, 42.0, 5.0, "supply", {}, "right"),
        ("ostrel-21-48", 10, 42.0, 5.0, "supply", {"limited": False}, "leans"),
        ("ostrel-21-48", 10, 42.4, 5.0, "supply", {}, "leans"),
        ("ostrel-21-48", 10, 45.0, 5.0, "supply", {}, "wrong"),
        # What it shows with nothing connected counts, below the switches too.
        ("ostrel-21-48", 10, 42.0, 5.0, "cccv", {"open_v": 48.0}, "wrong"),
        ("ostrel-21-48", 10, 42.0, 5.0, "supply", {"open_v": 55.0}, "wrong"),
        ("ostrel-21-48", 10, 42.0, 5.0, "cccv", {"open_v": 42.1}, "right"),
        # A vehicle's or a solar source, by the top of its band.
        ("fennimor-b-105", 4, 14.85, 20.0, "supply", {"low_v": 12.5}, "leans"),
        # What it shows with nothing connected is over the board's switches.
        ("ostrel-21-48", 10, 42.0, 2.0, "cccv", {"open_v": 75.0}, "wrong"),
        # Amps over what cells, or the board, take.
        ("ostrel-21-48", 13, 54.6, 25.0, "cccv", {}, "wrong"),
        ("ostrel-21-48", 13, 54.6, 17.0, "cccv", {}, "leans"),
    ],
)
def test_chargers_get_their_verdict(
    catalogue: Catalogue,
    cell: str,
    series: int,
    volts: float,
    amps: float,
    kind: str,
    more: dict[str, Any],
    wanted: str,
) -> None:
    found = judged(catalogue, cell, series, volts, amps, kind, **more)
    assert found.kind == wanted, found.words
    assert found.words
    assert found.at_end and found.board_fails
    assert bool(found.instead) == (wanted != "right")


def test_a_slip_is_told_by_its_volts(catalogue: Catalogue) -> None:
    assert "nominal" in spoken(judged(catalogue, "ostrel-21-48", 13, 46.8, 2.0).words)
    assert "14 in series" in spoken(judged(catalogue, "ostrel-21-48", 13, 58.8, 2.0).words)
    assert "52 cells" in spoken(judged(catalogue, "ostrel-21-48", 13, 218.4, 2.0).words)
    assert "swapped" in spoken(judged(catalogue, "ostrel-21-48", 13, 56.4, 2.0).words)


def test_how_much_a_low_charger_gives_up_is_told(catalogue: Catalogue) -> None:
    found = judged(catalogue, "ostrel-21-48", 13, 13 * 4.12, 2.0)
    assert found.stops_v == pytest.approx(4.12)
    assert 0.9 < found.stops_share < 0.97
    assert found.given_up_ah == pytest.approx((1.0 - found.stops_share) * 19.2)
    assert "4.12 V" in spoken(found.words) and "Ah" in spoken(found.words)


def test_a_charger_without_volts_is_stopped_by_the_board_alone(catalogue: Catalogue) -> None:
    found = judged(catalogue, "ostrel-18-25p", 5, 18.0, 1.5, "nickel")
    assert found.ended_by == "board"
    assert "never ends" in spoken(found.board_fails)


def test_a_rebuilt_charger_is_checked_and_its_mains_part_left_alone(catalogue: Catalogue) -> None:
    assert judged(catalogue, "ostrel-21-48", 13, 54.6, 2.0).checks == ()
    found = judged(catalogue, "ostrel-21-48", 13, 54.6, 2.0, rebuilt=True)
    assert any("licensed" in spoken(line) for line in found.checks)
    assert any("54.6" in spoken(line) for line in found.checks)


@given(over=st.floats(0.5, 2.0), amps=st.floats(0.1, 60.0))
def test_a_higher_charger_is_never_called_better(
    catalogue: Catalogue, over: float, amps: float
) -> None:
    """Over the full voltage a verdict gets no better as volts rise, and amps never mend one."""
    setting = setting_of(catalogue)

    def place(volts: float, current: float) -> int:
        charger = Charger(id="one", name="one", volts=volts, amps=current)
        return WORST.index(verdict_on(charger, setting).kind)

    volts = 54.6 * over
    if over > 1.0:
        assert place(volts, amps) <= place(volts * 1.2, amps)
    assert place(volts, amps) <= place(volts, 2.0 * amps) or over < 1.0


def test_an_equalise_stage_counts_where_the_board_fails(catalogue: Catalogue) -> None:
    found = judged(catalogue, "fennimor-b-105", 4, 14.4, 10.0, "lead", equalise="on")
    assert "go to 3.88 V" in spoken(found.board_fails)
    off = judged(catalogue, "fennimor-b-105", 4, 14.4, 10.0, "lead", equalise="off")
    assert "still ends at 3.6 V" in spoken(off.board_fails)


def test_nothing_over_full_is_called_full(catalogue: Catalogue) -> None:
    """Nine in series, a charger for ten, and no board: 4.67 V a cell."""
    nine = without_cut_off(catalogue, "none", 9)
    found = verdict_on(Charger(id="one", volts=42.0, amps=2.0), nine)
    assert found.kind == "wrong" and spoken(found.how_full) == "overcharged"
    assert "4.67 V" in spoken(found.at_end) and "full" not in spoken(found.at_end).replace(
        "overcharged", ""
    )


def test_over_the_builders_ceiling_is_a_kind_of_its_own(catalogue: Catalogue) -> None:
    from msgspec.structs import replace

    setting = setting_of(catalogue)
    lower = replace(
        setting, ceiling_v=4.1, asked_v=4.1, volts=replace(setting.volts, value=13 * 4.1)
    )
    charger = Charger(id="one", volts=54.6, amps=2.0)
    found = verdict_on(charger, lower)
    assert (found.kind, found.stop) == ("over-ceiling", False)
    assert verdict_on(charger, setting).kind == "right"
