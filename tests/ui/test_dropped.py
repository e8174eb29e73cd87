"""A file that is dropped on the window goes where it belongs, once that was asked."""

from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from lumvak.files.contents import Content
from lumvak.ui.dropped import PLACES
from lumvak.ui.shell.notice import Notice
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES
from tests.files.test_contents import SVG, VOLTS
from tests.ui.conftest import forget

READINGS = "number,volts,ah\n1,3.61,2.41\n2,3.60,2.38\n"
CHARGE = "time min,volts,amps\n0,50.2,4\n5,50.9,4\n10,51.2,4\n"
DUTY = "time,current\n0,12.5\n60,30\n120,0\n180,0\n"


def press(notice: Notice, word: str) -> None:
    next(button for button in notice.buttons if button.text() == word).click()


def drop(window: Window, folder: Path, name: str, text: str) -> str:
    path = folder / name
    path.write_text(text, "utf-8")
    window.files.open(path)
    return window.notice.text.text()


def test_every_kind_has_its_place() -> None:
    views = {stage.key: {"", *dict(stage.views)} for stage in STAGES}
    for place in PLACES.values():
        assert place.view in views[place.stage]


def taken(window: Window) -> dict[Content, object]:
    project = window.session.project
    return {
        "readings": len(project.hand.cells),
        "charge": len(project.charging.log.rows),
        "duty": project.need.load_basis,
        "outline": project.arrangement.room.kind,
        "voltages": len(project.watch.sets),
    }


@pytest.mark.parametrize(
    ("content", "text", "after"),
    [
        ("readings", READINGS, 2),
        ("charge", CHARGE, 3),
        ("duty", DUTY, "duty"),
        ("outline", SVG, "outline"),
    ],
    ids=("readings", "charge", "duty", "outline"),
)
def test_it_is_taken_by_its_page(
    qtbot: QtBot, window: Window, tmp_path: Path, content: Content, text: str, after: object
) -> None:
    before = window.session.project
    said = drop(window, tmp_path, "from-elsewhere.txt", text)
    assert said == "from-elsewhere.txt is no project. Take it as"
    assert window.session.project is before
    press(window.notice, PLACES[content].words)
    assert window.stage == PLACES[content].stage
    qtbot.waitUntil(lambda: taken(window)[content] == after, timeout=10_000)
    forget(window)


def test_group_voltages_need_as_many_as_the_pack_has(window: Window, tmp_path: Path) -> None:
    assert "nothing known" in drop(window, tmp_path, "volts.csv", VOLTS)
    window.session.edit({"pack.series": 3})
    drop(window, tmp_path, "volts.csv", VOLTS)
    press(window.notice, PLACES["voltages"].words)
    assert taken(window)["voltages"] == 2
    forget(window)


def test_what_nobody_knows_says_what_is_accepted(window: Window, tmp_path: Path) -> None:
    said = drop(window, tmp_path, "letter.txt", "Dear builder,\nno numbers here.\n")
    assert said.startswith("letter.txt is nothing known; accepted: a project, a table of cells")
    # A project that is cut short is still told as one.
    said = drop(window, tmp_path, "pack.lumvak.json", '{"format": "lumvak-project",')
    assert "cut short" in said
