"""Every sentence and word that is said, with where it stands: what a translation needs.

Prints one a line. A template has ``{}`` for each value; another language may number them. The core
and the files say theirs as ``Said``; those that the window and the command line put together
themselves are listed in the same form.
"""

from __future__ import annotations

import ast
import json
import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path

SOURCE = Path(__file__).resolve().parent.parent / "src" / "lumvak"
ROOMS = ("core", "files", "bench", "ui", "cli")
# What these say is said to instruments.
ASKS = {f"bench/simulated/{name}.py" for name in ("helper", "instruments", "scpi")}
SAYS = {"phrase", "worded", "listed", "sentences", "capital", "in_line", "about"}
# Letters, and no name of a key, a path or a file.
WORDS = re.compile(r"[A-Za-zµΩ°]")
KEY = re.compile(r"[a-z0-9_.:/*-]+|[a-z]+(?:[-_.][a-z0-9]+)+")

# What is a name for the program: of a path, a colour, a class of Qt, a field.
SYMBOL = re.compile(
    r"[a-z0-9]+([._/-][a-z0-9_{}]+)+|[A-Z_]+|[a-z0-9]+_[a-z0-9_]*|#[0-9A-Fa-f]+|.*[{;]\s*|Q[A-Z]\w+"
)
TAKES_KEYS = {
    "setObjectName", "getattr", "colour", "setProperty", "startswith", "removeprefix",
    "removesuffix", "join", "get", "connect", "font", "QKeySequence", "QShortcut", "come_to",
    "open_stage", "show_view", "beep",
}  # fmt: skip


@cache
def sentences() -> dict[str, str]:
    """Every sentence by its template, and where it stands first."""
    found: dict[str, str] = {}
    for room in ROOMS:
        for path in sorted((SOURCE / room).rglob("*.py")):
            place = path.relative_to(SOURCE).as_posix()
            if place in ASKS:
                continue
            for text, line in _said(_nodes(path)):
                found.setdefault(text, f"{place}:{line}")
    # Chemistries are shown by the names that the parts which come with the program give them.
    parts = json.loads((SOURCE / "data" / "parts" / "chemistries.json").read_text("utf-8"))
    found.update({item["name"]: "data/parts/chemistries.json" for item in parts["chemistries"]})
    return found


@cache
def window_words() -> dict[str, str]:
    """Single words of the window as well, and where each stands first.

    Widgets are made with them, so that they stand in no sentence; names of objects, keys and
    properties are left out as far as their form or the call tells.
    """
    found: dict[str, str] = {}
    for path in sorted((SOURCE / "ui").rglob("*.py")):
        nodes = _nodes(path)
        silent = {*_quiet(nodes), *_keys(nodes)}
        for node in nodes:
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                text, place = node.value, path.relative_to(SOURCE).as_posix()
                seen = re.search(r"[A-Za-z]{2,}", text) and "\n" not in text
                if id(node) not in silent and seen and not SYMBOL.fullmatch(text):
                    found.setdefault(text, f"{place}:{node.lineno}")
    return found


def _nodes(path: Path) -> list[ast.AST]:
    return list(_walk(ast.parse(path.read_text("utf-8"))))


def _walk(node: ast.AST) -> Iterator[ast.AST]:
    """A node and all within it, in the order of the source: ``ast.walk`` in a third of the time."""
    waiting = [node]
    while waiting:
        node = waiting.pop()
        yield node
        within: list[ast.AST] = []
        for value in vars(node).values():
            if isinstance(value, list):
                within += [part for part in value if isinstance(part, ast.AST)]
            elif isinstance(value, ast.AST) and not isinstance(value, ast.expr_context):
                within.append(value)
        waiting += reversed(within)


def _keys(nodes: list[ast.AST]) -> Iterator[int]:
    for node in nodes:
        if isinstance(node, ast.Subscript):
            yield id(node.slice)
        elif isinstance(node, ast.Compare):
            yield from map(id, _walk(node))
        elif isinstance(node, ast.Call) and _name(node.func) in TAKES_KEYS:
            yield from map(id, node.args)


def _said(nodes: list[ast.AST]) -> Iterator[tuple[str, int]]:
    """Constants that are said: in what puts sentences together, in tables, or by their form."""
    quiet = set(_quiet(nodes))
    within = {
        id(part)
        for node in nodes
        if isinstance(node, ast.Call) and _name(node.func) in SAYS
        for argument in (*node.args, *(word.value for word in node.keywords))
        for part in _walk(argument)
    }
    # Tables of words, and kinds that are said by their own names.
    tables = {
        id(part)
        for node in nodes
        if isinstance(node, ast.Dict)
        or (isinstance(node, ast.Subscript) and _name(node.value) == "Literal")
        for value in (node.values if isinstance(node, ast.Dict) else [node.slice])
        for part in _walk(value)
    }
    for node in nodes:
        if isinstance(node, ast.JoinedStr) and id(node) not in quiet:
            template = "".join(
                str(part.value) if isinstance(part, ast.Constant) else "{}" for part in node.values
            )
            # What goes over lines is a sheet of styles or a file, which nobody reads.
            if " " in template.strip() and "\n" not in template and WORDS.search(template):
                yield template, node.lineno
            continue
        if not isinstance(node, ast.Constant) or not isinstance(node.value, str):
            continue
        text = node.value
        if id(node) in quiet or not WORDS.search(text):
            continue
        spoken = id(node) in within or id(node) in tables
        if spoken or " " in text.strip() or text[:1].isupper() or not KEY.fullmatch(text):
            yield text, node.lineno


def _name(node: ast.expr) -> str:
    if isinstance(node, ast.Attribute):
        return node.attr
    return node.id if isinstance(node, ast.Name) else ""


def _quiet(nodes: list[ast.AST]) -> Iterator[int]:
    """Constants that nobody reads: docstrings, annotations, keys, forms within ``f`` strings."""
    for node in nodes:
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef):
            first = node.body[0] if node.body else None
            if isinstance(first, ast.Expr):
                yield id(first.value)
        if isinstance(node, ast.Call) and _name(node.func) == "Rule":
            yield id(node.args[0])
        if isinstance(node, ast.JoinedStr):
            yield from (id(part) for part in _walk(node) if part is not node)


if __name__ == "__main__":
    for text, place in sorted(sentences().items()):
        print(f"{place}\t{text}")
