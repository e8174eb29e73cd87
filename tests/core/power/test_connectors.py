"""Connectors and switches judged."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import Connector
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.connectors import (
    ContactSetting,
    connector_place,
    drop_mv,
    judge_connector,
    judge_switch,
)
from lumvak.core.time_current import TIMES_S


def setting(current_a: float, draw: Draw, full_v: float, passed_a: float = 0.0) -> ContactSetting:
    return ContactSetting(current_a, draw.curve, full_v, np.full(TIMES_S.shape, passed_a))


def test_the_next_size_up_is_proposed_until_the_fuse_guards_it(catalogue: Catalogue) -> None:
    parts = catalogue.connectors.values()
    draw = Draw(15.0, 15.0, 1.0)
    alone = connector_place(parts, None, setting(15.0, draw, 42.0)).part
    guarded = connector_place(parts, None, setting(15.0, draw, 42.0, passed_a=40.0)).part
    assert alone is not None and guarded is not None
    # Harm begins at 1.41 times what a contact carries for good.
    assert alone.continuous_a * 2.0**0.5 < 40.0 <= guarded.continuous_a * 2.0**0.5
    assert guarded.price == min(
        part.price
        for part in parts
        if part.continuous_a * 2.0**0.5 >= 40.0 and part.voltage_dc_v >= 42.0
    )
    # Where none is, the cheapest that carries the load stays.
    none = connector_place(parts, None, setting(15.0, draw, 42.0, passed_a=1e4)).part
    assert none is alone


def test_contacts_are_judged_on_load_peak_voltage_and_breaking(catalogue: Catalogue) -> None:
    part = catalogue.connectors["clasp-30"]
    fine = setting(20.0, Draw(20.0, 50.0, 5.0), 42.0)
    assert judge_connector(part, fine).serves
    for given, code in (
        (setting(31.0, Draw(31.0, 31.0, 5.0), 42.0), "continuous"),
        (setting(20.0, Draw(20.0, 60.0, 30.0), 42.0), "peak"),
        (setting(20.0, Draw(20.0, 20.0, 1.0), 130.0), "voltage"),
    ):
        assert judge_connector(part, given).reasons[0].code == code
    relay = replace(catalogue.switches["throw-20"], breaking_a=10.0)
    flat = setting(12.0, Draw(12.0, 12.0, 1.0), 20.0)
    assert judge_switch(relay, flat).against("breaking") is not None


def test_what_is_lost_in_a_contact_is_ohms_law(catalogue: Catalogue) -> None:
    for part in (*catalogue.connectors.values(), *catalogue.switches.values()):
        mohm = part.mated_mohm if isinstance(part, Connector) else part.resistance_mohm
        assert drop_mv(part, 10.0) == pytest.approx(10.0 * mohm)
