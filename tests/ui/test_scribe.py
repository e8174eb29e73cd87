"""What the stages do is in the log at once, and stays where it was read."""

from pathlib import Path

from lumvak.core.document.taps import TapBetween, TapTotal
from lumvak.core.taps.check import end_kept
from lumvak.files.kept.recovery import RecoveryCopy
from lumvak.ui.scribe import fresh_id
from lumvak.ui.session import Session


def test_a_reading_stays_in_the_log_when_it_is_undone(session: Session) -> None:
    session.edit({"balance_leads.totals": (TapTotal(lead=1, volts=3.7),)})
    (entry,) = session.project.record.log
    assert entry.kind == "leads checked" and entry.when and len(entry.id) == 8
    session.undo_stack.undo()
    assert session.project.balance_leads.totals == ()
    assert session.project.record.log == (entry,)
    session.undo_stack.redo()
    assert session.project.record.log == (entry,)
    session.edit({"record.built": "2026-05-31"})
    assert [it.kind for it in session.project.record.log] == ["leads checked", "closed up"]
    session.undo_stack.undo()
    assert session.project.record.log == (entry,)


def test_two_windows_lose_no_entry_of_either(session: Session, tmp_path: Path) -> None:
    path = tmp_path / "pack.lumvak.json"
    session.save(path)
    other_session = Session(session.catalogue, RecoveryCopy(tmp_path / "copies"))
    other_session.open(path)
    session.edit({"record.built": "2026-05-30"})
    session.save(path)
    other_session.edit({"balance_leads.totals": (TapTotal(lead=1, volts=3.7),)})
    other_session.save(path)
    assert {it.kind for it in other_session.project.record.log} == {"closed up", "leads checked"}


def test_names_differ() -> None:
    assert len({fresh_id() for _ in range(500)}) == 500


def test_a_plug_is_allowed_once_every_lead_was_read(session: Session) -> None:
    right = [float(volts) for volts in session.evaluation.balance.check.level_v]
    for lead, volts in enumerate(right):
        totals = (*session.project.balance_leads.totals, TapTotal(lead=lead, volts=volts))
        session.edit({"balance_leads.totals": totals})
    assert "plug allowed" not in [it.kind for it in session.project.record.log]
    # Lead 0 is proven by a reading from it.
    proves = TapBetween(start=end_kept(0), end=end_kept(1), volts=right[1])
    session.edit({"balance_leads.more": (proves,)})
    kinds = [it.kind for it in session.project.record.log]
    assert kinds.count("plug allowed") == 1 and kinds[-1] == "plug allowed"
    assert session.evaluation.project is session.project
    session.undo_stack.undo()
    # What was allowed by readings stays, as they do.
    assert "plug allowed" in [it.kind for it in session.project.record.log]
    session.undo_stack.redo()
    kinds = [it.kind for it in session.project.record.log]
    assert kinds.count("plug allowed") == 1
    session.edit({"need.ambient_c": 31.0})
    assert [it.kind for it in session.project.record.log] == kinds
