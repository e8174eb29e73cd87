"""Rules of figures: what is made of them, and what every table of them must hold."""

import ast
import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest

import lumvak.core
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.spelling import spoken
from lumvak.core.units import BY_UNIT

CORE = Path(lumvak.core.__file__).parent
METHODS = (CORE.parents[2] / "docs" / "methods.md").read_text("utf-8")
SECTIONS = {int(number) for number in re.findall(r"^## (\d+)", METHODS, re.MULTILINE)}
# Units of figures besides those of typed quantities.
UNITS = {*BY_UNIT, "", "ohm", "nΩ·m", "J", "l", "rpm", "km/h", "mV/K", "K/min", "W/(m²·K)"}
UNITS |= {"Wh/kg", "money", "money/Wh"}
DROP = Rule("{}.drop_mv", "Drop of {}", "mV", "{} × {}", "methods 9")


@cache
def tables() -> tuple[tuple[Path, str, Rule], ...]:
    """Every rule of the core, with the module and the name it stands under."""
    return tuple(_tables())


def _tables() -> Iterator[tuple[Path, str, Rule]]:
    for path in sorted(CORE.rglob("*.py")):
        text = path.read_text("utf-8")
        if " = Rule(" not in text:
            continue
        for node in ast.parse(text).body:
            made = node.value if isinstance(node, ast.Assign) else None
            if isinstance(made, ast.Call) and getattr(made.func, "id", "") == "Rule":
                assert isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name)
                yield path, node.targets[0].id, Rule(*map(ast.literal_eval, made.args))


def test_what_is_told_fills_key_label_and_rule() -> None:
    current = typed("need.current_a", "Current", 20.0, "A")
    figure = DROP.of(4.0, current, key="series", label="a joint", rule=("current", "resistance"))
    assert figure.key == "series.drop_mv"
    assert spoken(figure.label) == "Drop of a joint"
    assert spoken(figure.rule) == "current × resistance"
    assert (figure.value, figure.unit, figure.inputs) == (4.0, "mV", (current,))
    assert figure.origin == "computed" and not figure.assumed


def test_what_is_assumed_says_so_down_the_line() -> None:
    assumed = DROP.assumed(4.0, key="a", label="b", rule=("c", "d"))
    result = Figure("x", "X", 8.0, "mV", "twice", "methods 9", (assumed,))
    assert assumed.assumed and result.assumed


def test_what_was_said_stands_in_place_of_what_is_usual() -> None:
    rule = Rule("need.ambient_c", "Air around it", "°C", "as usual", "methods 3")
    usual, said = rule.said_or(None, 30.0), rule.said_or(12.0, 30.0)
    assert (usual.value, usual.origin) == (30.0, "assumed")
    assert (said.value, said.origin, said.inputs) == (12.0, "typed", ())


@pytest.mark.parametrize("path", sorted({path for path, _, _ in tables()}), ids=lambda it: it.stem)
def test_every_rule_is_used_once_described_and_has_its_section(path: Path) -> None:
    source = path.read_text("utf-8")
    names = [node.id for node in ast.walk(ast.parse(source)) if isinstance(node, ast.Name)]
    rules = [(name, rule) for where, name, rule in tables() if where == path]
    for name, rule in rules:
        assert names.count(name) > 1, f"{name} is never made"
        assert rule.unit in UNITS, f"{name}: {rule.unit}"
        told = re.search(r"methods (\d+)", rule.source)
        assert told is None or int(told[1]) in SECTIONS, f"{name}: {rule.source}"
    assert len({rule for _, rule in rules}) == len(rules), "described twice"
