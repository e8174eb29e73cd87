"""Connectors and switches judged."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import Connector
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.connectors import ContactSetting, drop_mv, judge_connector, judge_switch


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


def test_what_is_lost_in_a_contact_is_ohms_law(catalogue: Catalogue) -> None:
    for part in (*catalogue.connectors.values(), *catalogue.switches.values()):
        mohm = part.mated_mohm if isinstance(part, Connector) else part.resistance_mohm
        assert drop_mv(part, 10.0) == pytest.approx(10.0 * mohm)
