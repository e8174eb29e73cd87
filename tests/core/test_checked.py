"""Records from outside: all that is wrong is named, and two readers agree."""

import json
import random

import msgspec
import numpy as np
import pytest

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.checked import NotAccepted, made, may_be_odd, read, renewed, written
from lumvak.core.document.arrangement import Room
from lumvak.core.document.need import Need
from lumvak.core.document.project import Project
from lumvak.core.spelling import spoken
from lumvak.files.project_file import project_text
from tests.by_schema import mutated
from tests.length import so_many


def sentences(values: dict[str, object], kind: type = Need) -> list[str]:
    with pytest.raises(NotAccepted) as caught:
        made(kind, values)
    return [spoken(item.sentence) for item in caught.value.wrongs]


def test_every_wrong_field_is_named_at_once_with_what_it_accepts() -> None:
    assert sentences(
        {
            "current_a": -1.0,
            "kind": "boat",
            "duty": [],
            "nickel_cells": 2.5,
            "gear": "fast",
            "rails": [{"name": "12 V", "volts": 12.0}, {"name": "", "volts": 2000.0, "speed": 1}],
            "efficiency": 1.5,
            "lead_replaced": 1,
            "motor_kv": float("inf"),
        }
    ) == [
        "Equipment (kind): 'boat' was given; accepted: 'vehicle', 'tool', 'supply' or 'portable'",
        "Nickel cells in the old pack (nickel_cells): 2.5 was given; accepted: a whole number",
        "Motor kv (motor_kv): inf was given; accepted: a finite number rpm/V",
        "Motor turns per wheel turn (gear): 'fast' was given; accepted: a number",
        "Replaces a lead battery one for one (lead_replaced): 1 was given; accepted: true or false",
        "Rails (rails.1.speed): unknown field; remove it or correct its name",
        "Rail (rails.1.name): '' was given; accepted: 1 to 40 signs",
        "Volts (rails.1.volts): 2000.0 was given; accepted: 1000 V or less",
        "Continuous current (current_a): -1.0 was given; accepted: a number over 0 A",
        "Efficiency (efficiency): 1.5 was given; accepted: 1 or less (1 is 100 %)",
        "Duty (duty): 0 were given; accepted: 1 to 500 of them",
    ]


def test_what_is_missing_is_named_and_so_is_an_object_that_is_none() -> None:
    assert "Name (name): missing; it must be given" in sentences({"id": "x"}, Conductor)
    assert "Duty (duty.0): 'x' was given; accepted: an object with its fields" in sentences(
        {"duty": ["x"]}
    )
    assert "Duty (duty): 'x' was given; accepted: a list" in sentences({"duty": "x"})


def test_a_contradiction_names_the_field_to_change() -> None:
    with pytest.raises(NotAccepted) as caught:
        made(Charger, {"id": "one", "volts": 42.0, "amps": 2.0, "end_a": 3.0})
    (wrong,) = caught.value.wrongs
    assert wrong.path == "end_a"
    assert spoken(wrong.sentence).startswith("Turns off under: 3 A is no less than it gives")


def test_only_what_changes_is_checked_and_the_rest_stays_the_same_object() -> None:
    need = Need()
    fresh = renewed(need, {"current_a": 20})
    assert (fresh.current_a, type(fresh.current_a)) == (20.0, float)
    assert fresh.duty is need.duty
    with pytest.raises(
        NotAccepted, match=r"Low-voltage cut-off: 40 V is not under the rated voltage"
    ):
        renewed(need, {"stop_voltage_v": 40.0})


def test_numbers_of_numpy_are_numbers() -> None:
    fresh = renewed(Need(), {"current_a": np.float64(3.5)})
    assert (fresh.current_a, type(fresh.current_a)) == (3.5, float)
    corners = [(np.float64(1.0), 2.0), (30, 2.0), (30.0, np.float64(40.0))]
    assert renewed(Room(), {"outline": corners}).outline[0] == (1.0, 2.0)


@pytest.mark.parametrize("seed", range(so_many(40, 120)))
def test_the_walk_refuses_what_the_decoder_refuses(demos: dict[str, Project], seed: int) -> None:
    """Two readers of one file, the library's and our walk, agree whether something is wrong."""
    draw = random.Random(seed)
    base = demos[draw.choice(sorted(demos))]
    text = mutated(json.loads(project_text(base)), seed)
    try:
        json.loads(text)
    except (ValueError, RecursionError):
        return
    try:
        decoded: object = msgspec.json.decode(text, type=Project)
    except msgspec.DecodeError:
        decoded = None
    try:
        mine: object = read(Project, text)
    except NotAccepted as error:
        assert error.wrongs and all(": " in spoken(item.sentence) for item in error.wrongs)
        # What the decoder takes is refused for a rule between fields, or for what is odd.
        assert decoded is None or may_be_odd(text) or any(item.named for item in error.wrongs)
        assert "Expected" not in str(error) and "Invalid" not in str(error)
    else:
        assert mine == decoded
        assert read(Project, written(mine)) == mine  # type: ignore[type-var]
