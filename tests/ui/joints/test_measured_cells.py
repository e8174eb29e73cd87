"""Cells measured at their places."""

from lumvak.ui.session import Session
from lumvak.ui.stages.joints.joined_pack import OnTableView


def test_measured_cells_are_pasted(view: OnTableView, session: Session) -> None:
    view.show_lower("cells")
    records = view.measured.pasted("g1c1\t80\t3,71\t4.6\ng2c1\t33\n\n")
    assert view.measured.take(records) == ""
    assert session.project.measured[0].mohm == 80.0 and session.project.measured[0].volts == 3.71
    assert session.project.measured[1].volts is None
    wrong = [{"cell": "first", "mohm": None, "volts": None, "ah": None}]
    assert "cell" in view.measured.take(wrong)
    assert len(session.project.measured) == 2
