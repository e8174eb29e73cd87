import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.joints import Joints, Strip
from lumvak.core.joints.proposal import MARGIN, in_force
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
