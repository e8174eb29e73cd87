from PyQt6.QtWidgets import QApplication

from lumvak.ui.shell.window import Window


def test_the_facts_go_below_the_name_where_they_do_not_fit_beside_it(window: Window) -> None:
    line = window.title_line
    window.resize(1280, 800)
    QApplication.processEvents()
    assert line.facts.x() > line.name.geometry().right()
    window.session.edit({"name": "A barrow for the long slope behind the house"})
    window.resize(960, 640)
    window.set_text(150)
    QApplication.processEvents()
    line = window.title_line
    assert line.facts.y() >= line.name.geometry().bottom()
    for one, other in ((line.name, line.facts), (line.name, line.state), (line.facts, line.state)):
        assert not one.geometry().intersects(other.geometry())
    assert line.state.text() == "not saved"


def test_the_cost_says_that_it_is_one(window: Window) -> None:
    labels = {label.key: label for label in window.title_line.labels}
    assert labels["pack.cost"].accessibleName() == "cost 480.20"
