"""Random actions in the window; the long form is ./bench faults."""

import pytest
from msgspec.structs import replace

from lumvak.core.document.project import Project
from lumvak.core.sizing.options import Had
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from tests.storms import NotTheSame, window_storm


@pytest.mark.parametrize("seed", [1, 2])
def test_random_actions_are_undone_to_the_byte(window: Window, seed: int) -> None:
    assert window_storm(window, 60, seed) > 0


def test_a_step_that_is_not_undone_is_found(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    take = Session.take

    def careless(session: Session, project: Project, had: Had | None = None) -> None:
        renamed = replace(project, note=project.note + ".")
        take(session, renamed, had)

    monkeypatch.setattr(Session, "take", careless)
    with pytest.raises(NotTheSame, match="is not what it was"):
        window_storm(window, 60, 1)
