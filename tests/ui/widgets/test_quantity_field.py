"""A field is what its type in the document says, and follows the project while it is seen."""

from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from lumvak.core import units
from lumvak.core.document.edit import field_of
from lumvak.ui.session import Session
from lumvak.ui.widgets.quantity_field import FieldChoice, QuantityField, full_v, small_field


def test_a_field_has_its_name_kind_and_tip_from_the_document(
    qtbot: QtBot, session: Session
) -> None:
    field = QuantityField(session, "need.motor_kv")
    qtbot.addWidget(field)
    told = field_of("need.motor_kv")
    assert field.label.text() == told.title == "Motor kv"
    assert field.toolTip() == told.description != ""
    assert (field.kind, field.optional) == (units.KV, True)
    assert QuantityField(session, "pack.series").kind is units.COUNT
    assert QuantityField(session, "charging.tariff").kind is units.MONEY


def test_a_field_follows_the_project_once_it_is_seen(qtbot: QtBot, session: Session) -> None:
    field = small_field(session, "joints.rise_limit_k", "rise")
    qtbot.addWidget(field)
    session.edit({"joints.rise_limit_k": 25.0})
    assert field.edit.text() == ""
    field.show()
    assert field.edit.text() == "25 K"
    session.edit({"joints.rise_limit_k": 30.0})
    assert field.edit.text() == "30 K"
    # What is being typed stays.
    field.edit.setFocus()
    qtbot.waitUntil(field.edit.hasFocus)
    qtbot.keyClicks(field.edit, "1")
    session.edit({"joints.gap_mm": 1.7})
    assert "1" in field.edit.text() and field.edit.isModified()


def test_what_is_taken_stands_in_an_empty_field(qtbot: QtBot, session: Session) -> None:
    ceiling = small_field(session, "pack.ceiling_v", "ceiling", usual=full_v)
    weld = QuantityField(session, "joints.weld_k_per_w")
    held = QWidget()
    qtbot.addWidget(held)
    for field in (ceiling, weld):
        field.setParent(held)
    held.show()
    assert ceiling.edit.placeholderText() == "4.2 V"
    assert weld.edit.placeholderText().endswith("K/W")
    assert weld.note.text() == "assumed"


def test_a_choice_follows_its_field(qtbot: QtBot, session: Session) -> None:
    items = [("temperature", "by temperature"), ("rule", "by a rule")]
    choice = FieldChoice(session, "joints.school", items, "What a strip carries")
    qtbot.addWidget(choice)
    choice.show()
    assert choice.value == session.project.joints.school
    session.edit({"joints.school": "rule"})
    assert choice.value == "rule"
    choice.picked.emit("temperature")
    assert session.project.joints.school == "temperature"
