"""Parts of the power path judged, their figures against closed forms, and what opens first."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import BandPoint, Connector, Fuse, Surge, Switch, check_band
from lumvak.core.conductors.thermistor import hot_state, recovery_s, thermistor_ohm
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.connectors import ContactSetting, judge_connector, judge_switch
from lumvak.core.power.fuses import FuseSetting, hold_a, judge_fuse, next_standard_a
from lumvak.core.power.opening_order import Curve, pair_of, time_ratio
from lumvak.core.power.surge import SurgeSetting, judge_precharge, judge_thermistor, precharge
from lumvak.core.time_current import TIMES_S, Lump, lump_curve, stages_curve


def fuse_setting(**changes: object) -> FuseSetting:
    values: dict[str, object] = {
        "current_a": 20.0,
        "drawn_a": Draw(20.0, 35.0, 5.0).curve,
        "harm_a": np.full(TIMES_S.shape, 5000.0),
        "full_v": 42.0,
        "short_a": 500.0,
        "ambient_c": 25.0,
        "wire": "the main leads",
    }
    return FuseSetting(**{**values, **changes})  # type: ignore[arg-type]


def test_the_catalogue_is_broad(catalogue: Catalogue) -> None:
    assert len(catalogue.fuses) >= 20
    assert len(catalogue.wires) >= 24
    assert len(catalogue.connectors) >= 12
    assert len(catalogue.switches) >= 6
    assert len(catalogue.surges) >= 8
    kinds = {board.kind for board in catalogue.boards.values()}
    assert kinds == {"full", "protection", "charger", "balancer"}
    assert any(board.adjustable for board in catalogue.boards.values())
    for part in (*catalogue.fuses.values(), *catalogue.wires.values()):
        assert part.sample
    assert next_standard_a(catalogue.fuses.values(), 26.0) == 30.0


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({}, ""),
        ({"full_v": 60.0}, "voltage"),
        ({"short_a": 1600.0}, "breaking"),
        ({"current_a": 30.0}, "load"),
        ({"drawn_a": np.full(TIMES_S.shape, 70.0)}, "melts"),
        ({"short_a": 45.0}, "never"),
        ({"harm_a": np.full(TIMES_S.shape, 60.0)}, "wire"),
    ],
)
def test_each_way_a_fuse_fails_is_named(
    catalogue: Catalogue, changes: dict[str, object], code: str
) -> None:
    found = judge_fuse(catalogue.fuses["ember-h-30"], fuse_setting(**changes))
    assert [point.code for point in found.reasons] == ([code] if code else [])
    for point in found.reasons:
        assert point.help


def test_a_fuse_carries_less_in_the_heat(catalogue: Catalogue) -> None:
    fuse = catalogue.fuses["ember-30"]
    assert hold_a(fuse, 25.0) == pytest.approx(24.0)
    assert hold_a(fuse, 65.0) == pytest.approx(24.0 * (1.0 - 40 * 0.002))
    assert hold_a(fuse, 0.0) == pytest.approx(24.0)


@pytest.mark.parametrize(
    ("points", "word"),
    [
        (((2.0, 1.0, 5.0), (1.5, 0.5, 2.0)), "points that rise"),
        (((1.5, 1.0, 0.5), (2.0, 0.4, 0.45)), "before the 1 s that it holds"),
        (((1.5, 1.0, 5.0), (2.0, 2.0, 4.0)), "times that fall"),
        (((1.5, 1.0, 5.0), (2.0, 0.5, 6.0)), "does not open sooner"),
        (((1.5, 1.0, None), (2.0, 0.5, 6.0)), "two or more"),
    ],
)
def test_a_band_out_of_order_is_refused_with_what_would_do(
    points: tuple[tuple[float, float, float | None], ...], word: str
) -> None:
    band = [BandPoint(ratio=a, least_s=b, most_s=c) for a, b, c in points]
    with pytest.raises(ValueError, match=word):
        check_band(band)
    records = tuple(point.model_dump() for point in band)
    with pytest.raises(ProjectError, match=word) as caught:
        with_values(Project(), {"power.fuse_band": records})
    assert caught.value.path.startswith("power")


def test_impossible_parts_are_refused() -> None:
    base: dict[str, object] = {
        "id": "x", "name": "X", "continuous_a": 60.0, "short_a": 110.0, "short_s": 10.0,
        "mated_mohm": 0.5, "voltage_dc_v": 60.0, "price": 1.0,
    }  # fmt: skip
    with pytest.raises(ValidationError, match=r"accepted: mated_mohm up to 8\.3"):
        Connector.model_validate({**base, "mated_mohm": 20.0})
    with pytest.raises(ValidationError, match="short_a must be over continuous_a"):
        Connector.model_validate({**base, "short_a": 50.0})
    with pytest.raises(ValidationError, match="belong together"):
        Connector.model_validate({**base, "anti_spark_ohm": 5.0})
    with pytest.raises(ValidationError, match="thermistor needs beta_k"):
        Surge.model_validate({"id": "t", "name": "T", "kind": "thermistor", "ohm": 1.0,
                              "energy_j": 9.0, "price": 1.0})  # fmt: skip
    with pytest.raises(ValidationError, match="short_a must be over"):
        Switch(id="s", name="S", kind="switch", continuous_a=20.0, short_a=20.0, short_s=1.0,
               breaking_a=20.0, voltage_dc_v=32.0, resistance_mohm=1.0, price=1.0)  # fmt: skip


def test_contacts_are_judged_on_load_peak_voltage_and_breaking(catalogue: Catalogue) -> None:
    part = catalogue.connectors["clasp-30"]
    fine = ContactSetting(20.0, Draw(20.0, 50.0, 5.0).curve, 42.0)
    assert judge_connector(part, fine).serves
    for setting, code in (
        (ContactSetting(31.0, Draw(31.0, 31.0, 5.0).curve, 42.0), "continuous"),
        (ContactSetting(20.0, Draw(20.0, 60.0, 30.0).curve, 42.0), "peak"),
        (ContactSetting(20.0, Draw(20.0, 20.0, 1.0).curve, 130.0), "voltage"),
    ):
        assert judge_connector(part, setting).reasons[0].code == code
    relay = catalogue.switches["throw-20"].model_copy(update={"breaking_a": 10.0})
    flat = ContactSetting(12.0, Draw(12.0, 12.0, 1.0).curve, 20.0)
    assert judge_switch(relay, flat).against("breaking") is not None


def test_precharge_is_the_textbook_one() -> None:
    found = precharge(22.0, 58.8, 1150e-6)
    assert found.peak_a == pytest.approx(58.8 / 22.0)
    assert found.energy_j == pytest.approx(0.5 * 1150e-6 * 58.8**2)
    assert found.seconds == pytest.approx(5.0 * 22.0 * 1150e-6)
    # The energy in the resistor is that left in the capacitors, whatever the resistance.
    time = np.linspace(0.0, found.seconds * 4, 200_001)
    amps = found.peak_a * np.exp(-time / (22.0 * 1150e-6))
    assert np.trapezoid(amps**2 * 22.0, time) == pytest.approx(found.energy_j, rel=1e-4)


@given(st.floats(0.5, 30.0), st.floats(-10.0, 45.0))
def test_a_hot_thermistor_gives_off_what_it_takes(current: float, ambient: float) -> None:
    part = Surge(
        id="t", name="T", kind="thermistor", ohm=0.2, energy_j=50.0, beta_k=2700.0, steady_a=35.0,
        dissipation_w_per_k=0.05, time_constant_s=110.0, price=3.0,
    )  # fmt: skip
    hot = hot_state(part, current, ambient)
    assert hot.watts == pytest.approx(0.05 * (hot.temperature_c - ambient), rel=1e-6)
    assert thermistor_ohm(part, 25.0) == pytest.approx(0.2)
    needed = recovery_s(part, hot.temperature_c, ambient)
    if needed > 0.0:
        cooled = ambient + (hot.temperature_c - ambient) * math.exp(-needed / 110.0)
        again = thermistor_ohm(part, cooled) / thermistor_ohm(part, ambient)
        assert again == pytest.approx(0.7, rel=1e-6)


def test_surge_parts_are_refused_for_what_they_cannot_do(catalogue: Catalogue) -> None:
    draw = Draw(9.0, 28.0, 1.5, start_a=70.0, tau_s=0.33)
    board = catalogue.boards["wicket-5-15"]
    setting = SurgeSetting(draw, 9.0, 21.0, 25.0, 600.0, 1e-3, board)
    mild, strong = catalogue.surges["moor-0.08"], catalogue.surges["moor-0.3"]
    assert judge_thermistor(mild, setting).serves
    hasty = SurgeSetting(draw, 9.0, 21.0, 25.0, 10.0, 1e-3, board)
    assert judge_thermistor(strong, hasty).against("cools") is not None
    heavy = SurgeSetting(draw, 30.0, 21.0, 25.0, 600.0, 1e-3, None)
    assert judge_thermistor(strong, heavy).against("steady") is not None
    big = SurgeSetting(draw, 9.0, 60.0, 25.0, 600.0, 0.1, None)
    assert judge_precharge(catalogue.surges["stair-100"], big).against("slow") is not None
    assert judge_precharge(catalogue.surges["foothold-5.6"], big).against("energy") is not None


def flat(key: str, kind: str, amps: float) -> Curve:
    level = np.full(TIMES_S.shape, amps)
    return Curve(key, key, kind, level, level)  # type: ignore[arg-type]


def test_pairs_tell_the_margin_and_from_when_they_fail() -> None:
    low, high = flat("load", "load", 20.0), flat("fuse", "fuse", 25.0)
    fine = pair_of(low, high, "", 500.0)
    assert fine.holds
    assert (fine.margin_a, fine.margin) == (pytest.approx(5.0), pytest.approx(0.25))
    falling = Curve("w", "w", "harm", 100.0 / np.sqrt(TIMES_S), 100.0 / np.sqrt(TIMES_S))
    wrong = pair_of(high, falling, "", 500.0)
    assert not wrong.holds
    # 100 / sqrt(t) = 25 at 16 s.
    assert wrong.fails_s[0][0] == pytest.approx(16.0, rel=1e-6)
    assert wrong.fails_s[-1][1] == TIMES_S[-1]
    # Out of order up to where they cross, the other way round.
    turned = pair_of(falling, high, "", 500.0)
    assert turned.fails_s[0][0] == TIMES_S[0]
    assert turned.fails_s[0][1] == pytest.approx(16.0, rel=1e-6)
    assert pair_of(high, falling, "", 0.5).holds, "no more can flow than a dead short gives"


@given(st.floats(1e-3, 0.5), st.floats(5.0, 500.0), st.floats(40.0, 200.0))
def test_a_board_guards_a_wire_until_the_time_of_the_closed_form(
    rise_per_a2: float, tau: float, allowed: float
) -> None:
    """A stage of 60 A lets 60 A pass for good; the wire is harmed at −τ·ln(1 − u ÷ (a·I²))."""
    trips = stages_curve([(60.0, 0.01)])
    harm = lump_curve(Lump(rise_per_a2, tau), allowed)
    pair = pair_of(Curve("board", "BMS", "board", trips, trips),
                   Curve("leads", "leads", "harm", harm, harm), "", 1e4, 0.02)  # fmt: skip
    steady = rise_per_a2 * 60.0**2
    if steady <= allowed * 1.001:
        assert pair.holds or steady > allowed * 0.999
        return
    harmed = -tau * math.log1p(-allowed / steady)
    if 0.05 < harmed < 5e3:
        # Between the times of the grid curves are straight in log-log.
        assert pair.fails_s[0][0] == pytest.approx(harmed, rel=0.02)


def test_how_much_sooner_one_curve_acts() -> None:
    quick = Curve("a", "a", "fuse", 10.0 / np.sqrt(TIMES_S), 10.0 / np.sqrt(TIMES_S))
    slow = Curve("b", "b", "harm", 30.0 / np.sqrt(TIMES_S), 30.0 / np.sqrt(TIMES_S))
    assert time_ratio(quick, slow, 1e9) == pytest.approx(9.0, rel=1e-6)


@pytest.mark.parametrize("place", ["cells", "board", "output"])
def test_a_dead_short_is_the_full_voltage_over_what_lies_before_the_fuse(
    place: str, barrow: Project, catalogue: Catalogue
) -> None:
    seen = evaluate(with_values(barrow, {"power.fuse_place": place}), catalogue)
    ohm = seen.figures["network.effective_ohm"].number
    if place != "cells":
        ohm += seen.figures["power.board_ohm"].number
    if place == "output":
        ohm += seen.figures["leads.resistance_ohm"].number
    assert seen.power.short_a.number == pytest.approx(58.8 / ohm)
    assert ("fuse-late" in {item.code for item in seen.findings}) == (place == "output")


def test_a_typed_band_moves_the_curve_of_the_fuse(barrow: Project, catalogue: Catalogue) -> None:
    band = tuple({"ratio": ratio, "least_s": least, "most_s": most}
                 for ratio, least, most in ((1.5, 100.0, 400.0), (10.0, 0.01, 0.1)))  # fmt: skip
    seen = evaluate(
        with_values(barrow, {"power.fuse": "flint-40", "power.fuse_band": band}), catalogue
    )
    curve = next(curve for curve in seen.power.curves if curve.key == "fuse")
    assert float(np.interp(np.log(100.0), np.log(TIMES_S), curve.low_a)) == pytest.approx(
        60.0, rel=0.02
    )
    assert isinstance(seen.power.fuse.part, Fuse)
    assert len(seen.power.fuse.part.band) == 2
