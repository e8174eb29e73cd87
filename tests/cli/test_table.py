"""Tables and JSON on a terminal."""

import io
import json

import pytest

from lumvak.cli.table import json_text, table
from lumvak.core.said import phrase, say


def test_columns_are_as_wide_as_they_need_and_numbers_end_alike() -> None:
    text = table(("cell", "A"), [("one", "5"), ("another", "12.5")])
    lines = text.splitlines()
    assert lines == ["cell        A", "-------  ----", "one         5", "another  12.5"]
    assert not any(line != line.rstrip() for line in lines)


def test_what_an_output_cannot_show_is_escaped(monkeypatch: pytest.MonkeyPatch) -> None:
    document = {"ohm": "22 mΩ", "said": phrase("{} at {}", say(3.5, "V"), say(25.0, "°C"))}
    monkeypatch.setattr("sys.stdout", io.TextIOWrapper(io.BytesIO(), encoding="ascii"))
    plain = json_text(document)
    assert plain.isascii() and json.loads(plain)["ohm"] == "22 mΩ"
    monkeypatch.setattr("sys.stdout", io.TextIOWrapper(io.BytesIO(), encoding="utf-8"))
    assert "22 mΩ" in json_text(document)
    assert json.loads(json_text(document))["said"] == "3.5 V at 25 °C"
