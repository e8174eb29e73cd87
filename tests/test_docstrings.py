"""Public docstrings of the core say, in one form, what the types do not.

A sentence says what comes out and in which unit. Arrays have their shape in brackets, ``(n,)``. A
number whose name has no unit is named in double backticks. What is raised is named. What follows a
rule names its section of the methods; they hold the sources.
"""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import lumvak

CORE = Path(lumvak.__file__).parent / "core"
ARRAY = re.compile(r"\b(Array|NDArray|Rows|Mask|Index)\b")
SHAPE = re.compile(r"\((?:[\w+ -]+,(?: ?[\w+ -]+)*|\d)\)|any shape|same shape")
UNIT = re.compile(
    r"(^|_)(a|v|ohm|mohm|w|wh|ah|s|h|mm|mm2|m2|cm3|c|k|kg|g|l|mv|min|km|rpm|uf|f|seconds|hours|days|"
    r"celsius|volts|amps|charge|per_k|per_kelvin|k_per_watt|w_per_m2_k|a_per_mm2)$"
)


def _public(
    body: list[ast.stmt], over: str = ""
) -> Iterator[tuple[ast.FunctionDef | ast.ClassDef, str]]:
    """Public functions, classes and their methods, each with the docstring of its class."""
    for node in body:
        if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
            yield node, over
            if isinstance(node, ast.ClassDef):
                yield from _public(node.body, ast.get_docstring(node) or "")


def _words(node: ast.expr | None) -> str:
    return "" if node is None else ast.unparse(node)


def _left_out(node: ast.FunctionDef, says: str, over: str) -> Iterator[str]:
    arguments = [item for item in node.args.args + node.args.kwonlyargs if item.arg != "self"]
    kinds = {item.arg: _words(item.annotation) for item in arguments}
    arrays = [name for name, kind in kinds.items() if ARRAY.search(kind)]
    if (arrays or ARRAY.search(_words(node.returns))) and not SHAPE.search(says + over):
        yield f"the shape of {', '.join(arrays) or 'what it gives'}"
    for name, kind in kinds.items():
        plain = kind in ("float", "float | None") and not UNIT.search(name)
        if plain and f"``{name}``" not in says + over:
            yield f"what ``{name}`` is"
    for inner in ast.walk(node):
        if isinstance(inner, ast.Raise) and inner.exc is not None:
            raised = inner.exc.func if isinstance(inner.exc, ast.Call) else inner.exc
            name = ast.unparse(raised).rpartition(".")[2]
            if name[0].isupper() and name not in says:
                yield f"that it raises {name}"


def test_public_docstrings_say_what_the_types_do_not() -> None:
    told, missing = 0, []
    for path in sorted(CORE.rglob("*.py")):
        for node, over in _public(ast.parse(path.read_text("utf-8")).body):
            where = f"{path.relative_to(CORE)} {node.name}"
            says = ast.get_docstring(node)
            if says is None:
                missing.append(f"{where}: everything")
                continue
            told += 1
            if not re.search(r"[.:;)]$", says.split("\n\n")[0]):
                missing.append(f"{where}: the end of its sentence")
            if isinstance(node, ast.FunctionDef):
                missing.extend(f"{where}: {item}" for item in _left_out(node, says, over))
    assert told > 700
    assert not missing, "left out:\n" + "\n".join(missing)
