"""The stage of the balance leads turns to where a finding is cured."""

from lumvak.ui.shell.window import Window
from tests.ui.conftest import forget


def test_links_lead_to_the_view_they_are_about(window: Window) -> None:
    forget(window)
    window.open_stage("taps")
    stage = window.stages["taps"]
    stage.show_link("taps.whole_v")  # type: ignore[attr-defined]
    assert stage.view.value == "check"  # type: ignore[attr-defined]
    stage.show_link("balance_leads.fault_a")  # type: ignore[attr-defined]
    assert stage.view.value == "guide"  # type: ignore[attr-defined]
    forget(window)
