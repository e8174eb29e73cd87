"""The voltage window: typed, assumed by the kind of equipment, by the class of a vehicle."""

import pytest
from msgspec.structs import replace

from lumvak.core.document.need import Need
from lumvak.core.need.findings import window_findings
from lumvak.core.need.window import voltage_window
from lumvak.core.sizing.counts import series_max
from lumvak.core.spelling import spoken


@pytest.mark.parametrize(
    ("need", "highest", "stop"),
    [
        (Need(kind="tool", rated_voltage_v=18.0), 21.75, 15.0),
        (Need(kind="tool", rated_voltage_v=18.0, nickel_cells=14), 20.3, 14.0),
        (Need(kind="vehicle", rated_voltage_v=36.0), 42.0, 28.8),
        (Need(kind="vehicle", rated_voltage_v=24.0), 29.4, 19.2),
        (Need(kind="supply", rated_voltage_v=12.0), 14.7, 10.32),
    ],
)
def test_a_window_nobody_gave_is_assumed_and_marked(
    need: Need, highest: float, stop: float
) -> None:
    window = voltage_window(need)
    assert window.highest.number == pytest.approx(highest)
    assert window.stop.number == pytest.approx(stop)
    assert window.highest.assumed
    assert window.stop.assumed


def test_a_typed_window_is_kept() -> None:
    window = voltage_window(
        Need(kind="tool", rated_voltage_v=18.0, max_voltage_v=22.0, stop_voltage_v=14.0)
    )
    assert (window.highest.number, window.stop.number) == (22.0, 14.0)
    assert not window.highest.assumed
    assert not window.stop.assumed


@pytest.mark.parametrize(
    ("rated", "cells", "otherwise"),
    [
        (24.0, 7, None),
        (36.0, 10, 44.1),
        (48.0, 13, 58.8),
        (52.0, 14, None),
        (60.0, 16, 73.5),
        (72.0, 20, 88.2),
    ],
)
def test_rated_volts_of_vehicles_are_a_class(
    rated: float, cells: int, otherwise: float | None
) -> None:
    """The lower reading is assumed and the other told; a typed voltage is neither."""
    need = Need(kind="vehicle", rated_voltage_v=rated)
    window = voltage_window(need)
    assert window.highest.number == pytest.approx(4.2 * cells)
    assert window.highest.assumed
    assert window.read_otherwise_v == (None if otherwise is None else pytest.approx(otherwise))
    told = {item.code: item for item in window_findings(need, window)}
    assert ("window-class" in told) == (otherwise is not None)
    if otherwise is not None:
        assert f"{otherwise:g} V" in spoken(told["window-class"].text)
    typed = replace(need, max_voltage_v=rated * 1.2)
    assert voltage_window(typed).read_otherwise_v is None


def test_an_old_tool_has_no_cut_off_of_its_own() -> None:
    tool = Need(kind="tool", rated_voltage_v=18.0)
    assert not voltage_window(tool).binds
    assert voltage_window(tool).stop_words == "was used to"
    assert voltage_window(replace(tool, stop_voltage_v=14.0)).binds


@pytest.mark.parametrize(("rated", "series"), [(12.0, 3), (24.0, 7), (36.0, 10), (48.0, 14)])
def test_a_lead_window_takes_the_usual_count_of_cells_to_the_volt(
    rated: float, series: int
) -> None:
    """Seven cells of 4.2 V are full at just the 29.4 V of twelve lead cells, and so on."""
    for kind in ("supply", "portable"):
        window = voltage_window(Need(kind=kind, rated_voltage_v=rated))  # type: ignore[arg-type]
        assert series_max(window.highest.number, 4.2) == series
        assert spoken(window.highest.rule).startswith("2.45 V × lead cells")
        assert window.stop.number < rated
