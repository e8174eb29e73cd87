"""The stage of the balance leads has a title for each of its views, and opens them."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.taps.answer import VIEWS
from lumvak.ui.stages.taps.stage import TITLES


def test_every_view_opens_below_its_title(window: Window) -> None:
    window.open_stage("taps")
    stage = window.stages["taps"]
    assert {key for key, _ in VIEWS} == set(TITLES)
    for key, _ in VIEWS:
        stage.show_view(key)
        assert stage.head.title.text() == TITLES[key]  # type: ignore[attr-defined]
        assert stage.views[key].isVisible()  # type: ignore[attr-defined]
