"""The audit in the window."""

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.as_found.answer import audit_of
from lumvak.ui.stages.as_found.audit_view import AuditView, write_page
from tests.ui.as_found.conftest import as_found


@pytest.fixture
def view(window: Window) -> AuditView:
    found = as_found(window, "audit").views["audit"]
    assert isinstance(found, AuditView)
    return found


def test_verdict_parts_and_steps(window: Window, view: AuditView) -> None:
    assert view.verdict.text().startswith("May be used within these limits: 13 A")
    rows = [it.cells for it in view.risks.rows_model.rows]
    assert any("There is no main fuse" in it[0] and it[1] == "there" for it in rows)
    steps = [it.cells for it in view.steps.rows_model.rows]
    assert steps[0][0].startswith("one strip more") and steps[0][1] == "16.6 A"
    told = view.drawn.told()
    assert told.rows[0][0] == "series connections" and "16.6 A" in told.rows[0]
    window.session.edit({"as_found.fuse": "there"})
    rows = [it.cells for it in view.risks.rows_model.rows]
    assert not any("no main fuse" in it[0] for it in rows)


def test_the_page_goes_where_it_is_wanted(
    window: Window, view: AuditView, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    out = tmp_path / "page.html"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(out), ""))
    view.page.click()
    assert "May be used within these limits" in out.read_text("utf-8")
    told: list[str] = []
    window.session.told.connect(lambda severity, text, _: told.append(f"{severity}: {text}"))
    write_page(window.session, audit_of(window.session.evaluation), str(tmp_path))
    assert told and told[0].startswith("warn")


def test_it_is_taken_apart_from_here(window: Window, view: AuditView) -> None:
    asked: list[str] = []
    window.session.goes_on.disconnect()
    window.session.goes_on.connect(asked.append)
    view.apart.click()
    assert asked == ["taken apart"]


def test_before_it_is_begun_it_waits(window: Window, view: AuditView) -> None:
    window.session.edit({"as_found.begun": False})
    assert view.waits.isVisible() and not view.body.isVisible()
