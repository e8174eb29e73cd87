"""Balance leads in the document."""

import pytest

from lumvak.core.checked import made
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.document.taps import BalanceLeads, TapTotal


def test_each_lead_is_read_once_and_ends_are_named() -> None:
    fresh = Project()
    kept = with_values(fresh, {"balance_leads.totals": ({"lead": 0, "volts": 0.0}, {"lead": 1})})
    assert kept.balance_leads.totals == (TapTotal(lead=0, volts=0.0), TapTotal(lead=1))
    with pytest.raises(ProjectError, match="one lead is there twice"):
        with_values(fresh, {"balance_leads.totals": ({"lead": 1}, {"lead": 1})})
    for end in ("lead 3", "joint 0", "main minus", "main plus"):
        made(BalanceLeads, {"more": ({"start": end, "end": "lead 1", "volts": 3.7},)})
    with pytest.raises(ProjectError, match="lead 3, joint 3, main minus or main plus"):
        with_values(
            fresh, {"balance_leads.more": ({"start": "lead 03", "end": "lead 1", "volts": 3.7},)}
        )
    with pytest.raises(ProjectError, match="Colours"):
        with_values(fresh, {"balance_leads.colours": ()})
