import math

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.conductors.strip_and_wire import MATERIALS
from lumvak.core.document.edit import with_values
from lumvak.core.document.joints import Joints, Strip
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, stops_of
from lumvak.core.joints.candidates import current_share
from lumvak.core.joints.proposal import MARGIN, THICKNESSES_MM, conductor_as_specified, in_force
from lumvak.core.spelling import spoken
from tests.core.joints.judging import all_judged, proposal_of, setting_for


@pytest.mark.parametrize("school", ["temperature", "rule", "loss"])
def test_the_recommended_carries_the_load_by_the_school_in_force(
    catalogue: Catalogue, school: str
) -> None:
    joints = Joints(school=school, rule_a_per_mm2=20.0)  # type: ignore[arg-type]
    setting = setting_for(catalogue)
    found = all_judged(catalogue, setting, joints)
    best, reason = proposal_of(catalogue, setting, joints)
    assert not best.barred
    assert best.limits_a[school] >= MARGIN * setting.current_a
    assert best.part.material != "plated steel"
    assert "a quarter in reserve" in spoken(reason)
    fewer = [
        item
        for item in found
        if not item.barred
        and item.part.material != "plated steel"
        and item.layers < best.layers
        and item.carries(setting, school, MARGIN)
    ]
    assert not fewer


def test_where_nothing_carries_the_load_the_reason_says_so(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue, current_a=5000.0, peak_a=5000.0)
    found = all_judged(catalogue, setting, Joints())
    best, reason = proposal_of(catalogue, setting, Joints())
    assert "still too little" in spoken(reason)
    joinable = [item for item in found if not item.barred]
    assert best.limits_a["temperature"] == max(item.limits_a["temperature"] for item in joinable)


def test_prismatic_cells_are_offered_screwed_bars(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue, cell=catalogue.cells["fennimor-b-50"], parallel=1)
    best, _ = proposal_of(catalogue, setting, Joints())
    assert best.part.join == "screw"


def test_what_is_set_is_in_force_and_the_rest_follows(catalogue: Catalogue) -> None:
    setting, joints = setting_for(catalogue), Joints()
    proposal, _ = proposal_of(catalogue, setting, joints)
    assert in_force(Strip(), None, proposal, setting, joints) is proposal
    doubled = in_force(Strip(layers=3), None, proposal, setting, joints)
    assert (doubled.part.id, doubled.layers) == (proposal.part.id, 3)
    part = catalogue.conductors["nickel-0.1x5"]
    own = in_force(Strip(part=part.id, width_mm=4.0), part, proposal, setting, joints)
    assert (own.part.id, own.width_mm, own.layers) == ("nickel-0.1x5", 4.0, 1)


@pytest.mark.parametrize("amps", [100.0, 200.0, 500.0])
def test_one_as_specified_has_the_section_that_the_rule_asks_for(
    catalogue: Catalogue, amps: float
) -> None:
    joints = Joints(school="rule", rule_a_per_mm2=5.0, take_off="end")
    setting = setting_for(catalogue, "group", current_a=amps, peak_a=amps)
    made = conductor_as_specified(setting, joints, 1.0)
    assert made is not None and not made.barred
    share = current_share("group", 7, joints.take_off, 7)
    # As much heat in a volume as nickel at 5 A/mm² makes.
    density = 5.0 * math.sqrt(MATERIALS["nickel"].resistivity_ohm_m / 1.7241e-8)
    area = amps * MARGIN * share / density
    place = THICKNESSES_MM.index(made.part.thickness_mm)
    assert made.part.thickness_mm * made.width_mm >= area
    assert place and THICKNESSES_MM[place - 1] * made.width_mm < area


def test_nothing_is_specified_that_no_copper_carries(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue, "group", current_a=2e4, peak_a=2e4)
    joints = Joints(school="rule", take_off="end")
    assert conductor_as_specified(setting, joints, 1.0) is None


def test_a_pack_for_more_than_any_strip_carries_goes_on(catalogue: Catalogue) -> None:
    need = {"need.rated_voltage_v": 48.0, "need.current_a": 400.0, "need.runtime_h": 0.33}
    evaluation = evaluate(with_values(Project(), need), catalogue)
    assert not stops_of(evaluation)
    assert "group-joint-as-specified" in {item.code for item in evaluation.findings}
    assert evaluation.figures["joints.group.thickness_mm"].origin == "assumed"
    assert evaluation.figures["joints.group.limit_a"].number >= 400.0
