"""Project files with every section in them, and mutated by their schema."""

from __future__ import annotations

import copy
import json
import random
import re
from collections.abc import Iterator
from functools import cache
from typing import Any

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import parse_project, project_text
from lumvak.files.schema import schema_of

Node = dict[str, Any]
# Texts that fit the patterns of the schema.
TEXTS = ("g1c1", "g2c1", "g1c1p", "g2c1n", "2026-05-31", "odd-1", "lead 1", "joint 1", "a word")
# What stands for itself in JSON: json.dumps writes none of it.
RAW = ("1e999", "-1e999", "1e-320", "9" * 400, "0." + "0" * 300 + "1", "-0", "[" * 2000)
ODD: tuple[Any, ...] = (
    None, True, False, "", "x" * 600, "a\x1bb", "\u202e", -1, 0, 1, 1e-9, 1e308, [], {}, [[]], "1",
)  # fmt: skip
MOST_CELLS = 600
MILD, HARSH = (0, 0, 2, 3, 3, 4), (1, 2, 5, 6, 7)


@cache
def _schema() -> Node:
    return schema_of("project.schema.json")


def _open(node: Node) -> Node:
    """A node with its reference followed, and of several the one that holds something."""
    if "$ref" in node:
        return _open(_schema()["$defs"][node["$ref"].split("/")[-1]])
    if "anyOf" in node:
        held = [item for item in node["anyOf"] if item.get("type") != "null"]
        return _open(held[0])
    return node


def _made(node: Node, draw: random.Random) -> Any:
    """A value that a node takes, as far as the schema tells."""
    node = _open(node)
    if "const" in node or "enum" in node:
        return node.get("const", draw.choice(node.get("enum", [None])))
    kind = node.get("type")
    if kind in ("number", "integer"):
        low = node.get("minimum", node.get("exclusiveMinimum", 0) + 1e-3)
        high = node.get("maximum", node.get("exclusiveMaximum", low + 10.0))
        value = draw.choice((low, min(low + 1.0, high), 0.5 * (low + high), high))
        return int(value) if kind == "integer" else float(value)
    if kind == "boolean":
        return draw.random() < 0.5
    if kind == "string":
        pattern = node.get("pattern")
        fit = [text for text in TEXTS if pattern is None or re.search(pattern, text)]
        return draw.choice(fit or ["x"])
    if kind == "array":
        if "prefixItems" in node:
            return [_made(item, draw) for item in node["prefixItems"]]
        count = max(node.get("minItems", 0), draw.randint(1, 2))
        return [_made(node["items"], draw) for _ in range(min(count, node.get("maxItems", 9)))]
    if kind == "object":
        wanted = set(node.get("required", ()))
        return {
            name: _made(inner, draw)
            for name, inner in node.get("properties", {}).items()
            if name in wanted or draw.random() < 0.5
        }
    return None


def whole(base: Project, catalogue: Catalogue, seed: int) -> Node:
    """A project as JSON with something in every list that takes it together with the rest."""
    draw = random.Random(seed)
    document: Node = json.loads(project_text(base))

    def fill(node: Node, inside: Node) -> None:
        for name, inner in _open(node).get("properties", {}).items():
            open_ = _open(inner)
            if name == "parts":
                continue
            if open_.get("type") == "object":
                fill(inner, inside.setdefault(name, {}))
            elif inside.get(name) in (None, []):
                for _ in range(8):
                    before = copy.deepcopy(inside.get(name))
                    inside[name] = _made(inner, draw)
                    if _taken(document, catalogue) is not None:
                        break
                    if before is None:
                        del inside[name]
                    else:
                        inside[name] = before

    fill(_schema(), document)
    return document


def _taken(document: Node, catalogue: Catalogue) -> Project | None:
    try:
        return parse_project(json.dumps(document), "file", catalogue)
    except FileProblem:
        return None


def _places(node: Any, schema: Node | None) -> Iterator[tuple[Any, Any, Node]]:
    """Every value of a document: what holds it, under which key, and its schema."""
    schema = {} if schema is None else _open(schema)
    keys = node.keys() if isinstance(node, dict) else range(len(node))
    for key in keys:
        if isinstance(node, dict):
            inner = schema.get("properties", {}).get(key)
        else:
            inner = dict(enumerate(schema.get("prefixItems", ()))).get(key, schema.get("items"))
        yield node, key, inner or {}
        if isinstance(node[key], dict | list):
            yield from _places(node[key], inner)


def mutated(document: Node, seed: int) -> str:
    """The text of a project with one to four of its values mutated as their schema suggests."""
    draw = random.Random(seed)
    document = copy.deepcopy(document)
    raws: dict[str, str] = {}
    for _ in range(draw.randint(1, 4)):
        holder, key, schema = draw.choice([*_places(document, _schema())])
        node, value = _open(schema), holder[key]
        # Mostly what the schema takes: what is refused at once tells little.
        kind = draw.choice(MILD if draw.random() < 0.8 else HARSH)
        limits = [
            node[name]
            for name in ("minimum", "maximum", "exclusiveMinimum", "exclusiveMaximum")
            if name in node
        ]
        if kind == 0 and limits:
            holder[key] = draw.choice(limits)
        elif kind == 1 and limits:
            holder[key] = draw.choice(limits) + draw.choice((-1, 1)) * draw.choice((1e-9, 1, 1e6))
        elif kind == 2 and isinstance(value, list) and value:
            most = node.get("maxItems", 400)
            holder[key] = [
                copy.deepcopy(draw.choice(value))
                for _ in range(draw.choice((0, 1, most, most + 1)))
            ]
        elif kind == 3 and schema:
            holder[key] = _made(schema, draw)
        elif kind == 4 and isinstance(holder, dict):
            del holder[key]
        elif kind == 5 and isinstance(value, dict):
            value["no such field"] = 1
        elif kind == 6:
            name = f"raw {len(raws)} {draw.random()}"
            raws[name], holder[key] = draw.choice(RAW), name
        else:
            holder[key] = draw.choice(ODD)
    text = json.dumps(document)
    for name, raw in raws.items():
        text = text.replace(f'"{name}"', raw)
    return text


def small(project: Project) -> bool:
    """Whether a pack is no larger than what is worked out in a moment."""
    return (project.pack.series or 1) * (project.pack.parallel or 1) <= MOST_CELLS
