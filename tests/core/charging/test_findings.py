"""What there is to notice about charging, one by one."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging.findings import ceiling_findings, cold_findings
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, stops_of
from lumvak.core.figures.figure import typed
from lumvak.core.spelling import spoken


def test_a_cell_is_not_charged_colder_than_its_sheet_allows(catalogue: Catalogue) -> None:
    for cell in catalogue.cells.values():
        at = typed("need.ambient_c", "Ambient", cell.charge_min_c, "°C")
        assert not list(cold_findings(cell, at))
        colder = typed("need.ambient_c", "Ambient", cell.charge_min_c - 0.1, "°C")
        (item,) = cold_findings(cell, colder)
        assert (item.code, item.severity) == ("cold-charge", "warn")


def test_a_ceiling_over_the_full_voltage_stops(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    assert not list(ceiling_findings(cell, cell.voltage_full_v))
    (item,) = ceiling_findings(cell, cell.voltage_full_v + 0.05)
    assert (item.code, item.severity) == ("ceiling-too-high", "stop")


def codes(project: Project, catalogue: Catalogue, **changes: object) -> dict[str, str]:
    """Codes and severities of what is found at the stage, but for what every vehicle is told."""
    evaluation = evaluate(
        with_values(project, {k.replace("__", "."): v for k, v in changes.items()}), catalogue
    )
    return {
        item.code: item.severity
        for item in evaluation.findings
        if item.stage == "charging" and item.code != "braking-full"
    }


def test_the_charger_of_the_need_is_judged(even_barrow: Project, catalogue: Catalogue) -> None:
    assert codes(even_barrow, catalogue, need__charger_voltage_v=58.8) == {}
    assert codes(even_barrow, catalogue, need__charger_voltage_v=None) == {}
    low = codes(even_barrow, catalogue, need__charger_voltage_v=56.0)
    assert low == {"charger-short": "note"}
    assert codes(even_barrow, catalogue, need__charger_voltage_v=59.2) == {"charger-leans": "warn"}
    assert codes(even_barrow, catalogue, need__charger_voltage_v=60.5) == {"charger-wrong": "stop"}
    assert codes(even_barrow, catalogue, need__charger_voltage_v=84.0) == {"charger-wrong": "stop"}
    under = codes(even_barrow, catalogue, need__charger_voltage_v=40.0)
    assert set(under) == {"charger-short", "charger-under"}


def test_a_charger_for_fewer_in_series_is_warned_of(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    """Fourteen cells at 4.1 V are gently charged; at 54.6 V, thirteen full ones, at 3.9 V each."""
    gentle = codes(even_barrow, catalogue, need__charger_voltage_v=14 * 4.1)
    assert gentle == {"charger-short": "note"}
    fewer = codes(even_barrow, catalogue, need__charger_voltage_v=13 * 4.2)
    assert fewer["charger-short"] == "warn"


def test_a_wrong_charger_does_not_change_the_pack(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    free = {
        "pack.cell": None,
        "pack.series": None,
        "pack.parallel": None,
        "need.charger_voltage_v": 84.0,
    }
    evaluation = evaluate(with_values(even_barrow, free), catalogue)
    assert "charger-wrong" not in stops_of(evaluation)


def test_groups_out_of_step_and_small_ones_are_told_apart(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    apart = tuple({"share": 0.5 if place else 0.44} for place in range(14))
    found = codes(even_barrow, catalogue, charging__groups=apart)
    assert found == {"groups-out-of-step": "warn"}
    small = tuple({"ah": 33.6 if place else 30.0, "share": 0.5} for place in range(14))
    assert "groups-small" in codes(even_barrow, catalogue, charging__groups=small)
    leaks = tuple({"share": 0.5, "leak_ma": 0.0 if place else 90.0} for place in range(14))
    assert codes(even_barrow, catalogue, charging__groups=leaks)["never-even"] == "warn"
    empty = codes(even_barrow, catalogue, charging__groups=leaks, charging__between_days=30.0)
    assert empty["evens-stop"] == "stop"
    stops = codes(
        even_barrow,
        catalogue,
        charging__by="module",
        charging__module__ohm=0.5,
        charging__module__watt=0.25,
    )
    assert stops["evens-stop"] == "stop"


def test_a_bleed_over_the_end_current_keeps_the_lamp_from_turning(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    """4.17 V over 4 Ω is more than a tenth of what any charger here gives; over 400 Ω less."""
    module = {"charging__by": "module", "charging__module__watt": 10.0}
    assert codes(even_barrow, catalogue, charging__module__ohm=4.0, **module) == {
        "lamp-waits": "warn"
    }
    assert codes(even_barrow, catalogue, charging__module__ohm=400.0, **module) == {}
    looks = {"charging__module__strategy": "average"}
    assert codes(even_barrow, catalogue, charging__module__ohm=4.0, **module, **looks) == {}


def test_a_floor_over_the_ceiling_is_refused(even_barrow: Project, catalogue: Catalogue) -> None:
    with pytest.raises(ProjectError, match="accepted: a discharge limit under it"):
        with_values(even_barrow, {"pack.ceiling_v": 4.0, "charging.floor_v": 4.1})
    assert codes(even_barrow, catalogue, charging__floor_v=4.5)["floor-over-ceiling"] == "stop"


def test_a_vehicle_is_told_of_braking_into_a_full_pack(
    even_barrow: Project, trimmer: Project, catalogue: Catalogue
) -> None:
    told = [
        item for item in evaluate(even_barrow, catalogue).findings if item.code == "braking-full"
    ]
    assert len(told) == 1 and "58.8 V" in spoken(told[0].do)
    assert not [
        item for item in evaluate(trimmer, catalogue).findings if item.code == "braking-full"
    ]


def test_a_group_that_was_too_low_is_never_charged(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    groups = tuple({"volts": 1.2 if place == 2 else 3.4} for place in range(14))
    assert codes(even_barrow, catalogue, charging__groups=groups)["group-dead"] == "stop"


def test_in_the_cold_a_board_with_a_sensor_waits_and_one_without_stops(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    cold = {"charging__cell_c": -10.0}
    assert codes(even_barrow, catalogue, **cold)["charge-waits"] == "note"
    board = evaluate(even_barrow, catalogue).sized.boards.board
    assert board is not None and board.sensors > 0
    numb = replace(board, id="numb", sensors=0)
    parts = replace(even_barrow.parts, boards=(numb,))
    without = replace(even_barrow, parts=parts)
    found = codes(without, catalogue, protection__board="numb", **cold)
    assert found["charger-wrong"] == "stop"
