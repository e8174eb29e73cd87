"""Floor and ceiling on two handles, and the cold."""

import pytest

from lumvak.ui.session import Session
from lumvak.ui.stages.charging.ceiling import CeilingView
from tests.ui.charging.conftest import Opener, even


@pytest.fixture
def view(open_view: Opener, session: Session) -> CeilingView:
    even(session)
    page = open_view("ceiling")
    assert isinstance(page, CeilingView)
    return page


def drag(view: CeilingView, name: str, volts: float) -> None:
    """Drag a handle to volts and let it go."""
    handle = view.handles[name]
    handle.moving = True
    handle.setValue(volts)
    handle.sigDragged.emit(handle)
    handle.moving = False
    handle.sigPositionChangeFinished.emit(handle)


def test_a_handle_is_dragged_and_what_follows_is_said(view: CeilingView, session: Session) -> None:
    assert "100 %" in view.says.text()
    drag(view, "ceiling", 4.052)
    assert session.project.pack.ceiling_v == pytest.approx(4.05)
    assert "given up at the top" in view.says.text()
    assert "Cycles usually grow" in view.gain.text() and "not a promise" in view.gain.text()
    drag(view, "floor", 3.2)
    assert session.project.charging.floor_v == pytest.approx(3.2)
    assert view.out[1].rect().width() > 5.0
    drag(view, "ceiling", 4.5)
    assert session.project.pack.ceiling_v is None
    drag(view, "floor", 1.0)
    assert session.project.charging.floor_v is None


def test_handles_do_not_cross(view: CeilingView, session: Session) -> None:
    drag(view, "ceiling", 4.0)
    drag(view, "floor", 4.1)
    assert session.project.charging.floor_v == pytest.approx(3.95)
    session.edit({"pack.ceiling_v": None, "charging.floor_v": 4.3})
    assert "accepted: under 4.2 V" in view.says.text()
    assert view.gain.text() == ""


def test_the_cold_is_said_with_and_without_a_sensor(view: CeilingView, session: Session) -> None:
    session.edit({"charging.cell_c": -4.0})
    assert "keeps the charge off" in view.cold_says.text()
    assert view.here.value() == -4.0
    session.edit({"charging.cell_c": 25.0})
    assert "take this current" in view.cold_says.text()
