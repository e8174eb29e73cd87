"""A choice is a row of buttons: by pointer, by keys and to those who do not see it."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QLineEdit, QRadioButton, QWidget
from pytestqt.qtbot import QtBot

from lumvak.ui.widgets.choice import ChoiceRow, Several

ITEMS = [(1, "one"), (2, "two"), (3, "three")]


def following(choice: ChoiceRow) -> ChoiceRow:
    choice.picked.connect(choice.show_value)
    return choice


def checked(choice: ChoiceRow) -> list[bool]:
    return [button.isChecked() for button in choice.words]


def test_one_is_picked_by_pointer_and_by_keys(qtbot: QtBot) -> None:
    choice = following(ChoiceRow(ITEMS, "Number"))
    qtbot.addWidget(choice)
    choice.show()
    assert (choice.value, choice.offered) == (1, (1, 2, 3))
    assert choice.accessibleName() == "Number: one"
    qtbot.mouseClick(choice.words[2], Qt.MouseButton.LeftButton)
    assert (choice.value, checked(choice)) == (3, [False, False, True])
    qtbot.keyClick(choice.words[2], Qt.Key.Key_Right)
    assert (choice.value, checked(choice)) == (1, [True, False, False])
    qtbot.keyClick(choice.words[0], Qt.Key.Key_Left)
    assert choice.value == 3
    assert choice.accessibleName() == "Number: three"


def test_what_is_refused_is_not_shown(qtbot: QtBot) -> None:
    choice = ChoiceRow(ITEMS, "Number")
    qtbot.addWidget(choice)
    choice.show()
    with qtbot.waitSignal(choice.picked) as told:
        choice.words[1].click()
    assert told.args == [2]
    assert (choice.value, checked(choice)) == (1, [True, False, False])
    choice.show_value(None)
    assert checked(choice) == [False, False, False]


def test_its_roles_and_its_one_stop_of_the_tab_key_are_those_of_buttons(qtbot: QtBot) -> None:
    held = QWidget()
    qtbot.addWidget(held)
    choice, after = ChoiceRow(ITEMS, "Number"), QLineEdit()
    for widget in (choice, after):
        widget.setParent(held)
    choice.show_value(2)
    held.show()
    for button, name in zip(choice.words, ("one", "two", "three"), strict=True):
        assert isinstance(button, QRadioButton)
        assert button.autoExclusive()
        assert button.accessibleName() == f"Number: {name}"
    stops = [button.focusPolicy() & Qt.FocusPolicy.TabFocus for button in choice.words]
    assert [bool(stop) for stop in stops] == [False, True, False]
    held.activateWindow()
    choice.setFocus()
    qtbot.waitUntil(choice.hasFocus)
    assert choice.words[1].hasFocus()


def test_other_words_take_the_place_of_those_before(qtbot: QtBot) -> None:
    choice = ChoiceRow(ITEMS, "Number")
    qtbot.addWidget(choice)
    wide = choice.sizeHint().width()
    choice.offer(ITEMS[:2])
    assert len(choice.words) == 2
    assert choice.sizeHint().width() < wide
    choice.offer([*ITEMS, (4, "four")])
    assert [button.text() for button in choice.words] == ["one", "two", "three", "four"]


def test_several_are_in_force_and_the_last_one_stays(qtbot: QtBot) -> None:
    several = following(Several(ITEMS, "Numbers"))
    qtbot.addWidget(several)
    several.show()
    assert several.value == (1, 2, 3)
    several.words[0].click()
    assert several.value == (2, 3)
    qtbot.keyClick(several.words[0], Qt.Key.Key_Right)
    qtbot.keyClick(several.words[1], Qt.Key.Key_Space)
    assert several.value == (3,)
    several.words[2].click()
    assert (several.value, checked(several)) == ((3,), [False, False, True])
    assert isinstance(several.words[0], QCheckBox)
    assert not several.words[0].autoExclusive()
