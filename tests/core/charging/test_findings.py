"""What there is to notice about charging, one by one."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging.findings import charger_findings, cold_findings
from lumvak.core.figures.figure import typed

FULL = typed("pack.voltage_full_v", "Full", 42.0, "V")


def test_a_cell_is_not_charged_colder_than_its_sheet_allows(catalogue: Catalogue) -> None:
    for cell in catalogue.cells.values():
        at = typed("need.ambient_c", "Ambient", cell.charge_min_c, "°C")
        assert not list(cold_findings(cell, at))
        colder = typed("need.ambient_c", "Ambient", cell.charge_min_c - 0.1, "°C")
        (item,) = cold_findings(cell, colder)
        assert (item.code, item.severity) == ("cold-charge", "warn")


@pytest.mark.parametrize(
    ("charger", "code"),
    [(None, None), (42.0, None), (58.8, "charger-too-high"), (29.4, "charger-too-low")],
)
def test_a_charger_ends_at_the_full_voltage_or_is_named(
    catalogue: Catalogue, charger: float | None, code: str | None
) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    given = None if charger is None else typed("need.charger_voltage_v", "Charger", charger, "V")
    found = [item.code for item in charger_findings(cell, FULL, given, None)]
    assert found == ([] if code is None else [code])


def test_a_ceiling_over_the_full_voltage_stops(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    assert not list(charger_findings(cell, FULL, None, cell.voltage_full_v))
    (item,) = charger_findings(cell, FULL, None, cell.voltage_full_v + 0.05)
    assert (item.code, item.severity) == ("ceiling-too-high", "stop")
