"""``lumvak explain``: the working of one figure, down to what was typed."""

from __future__ import annotations

import argparse
import difflib
from collections.abc import Iterator
from typing import Any

from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of
from lumvak.cli.spelled import say
from lumvak.cli.table import json_text
from lumvak.cli.told import complain
from lumvak.core.figures.figure import ORIGIN_WORDS, Figure, as_json
from lumvak.core.said import in_line
from lumvak.core.spelling import spoken


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print a figure's working; 0 when done, 2 where file or key cannot be used."""
    seen = evaluation_of(chosen)
    if seen is None:
        return 2
    if chosen.depth is not None and chosen.depth < 0:
        refuse(f"--depth {chosen.depth}; accepted: 0 or more")
    figure = seen.figures.get(chosen.key)
    if figure is None:
        near = difflib.get_close_matches(chosen.key, list(seen.figures), n=3, cutoff=0.4)
        hint = f"did you mean {', '.join(near)}?" if near else "see “lumvak evaluate”"
        complain("lumvak explain", f"no figure “{chosen.key}”; {hint}")
        return 2
    if chosen.json:
        print(json_text(unfolded(figure, deepest=chosen.depth)))
    else:
        print("\n".join(lines(figure, deepest=chosen.depth)))
    return 0


def unfolded(
    figure: Figure,
    depth: int = 0,
    deepest: int | None = None,
    told: set[str] | None = None,
) -> dict[str, Any]:
    """A figure as JSON with its inputs inside it, cut where ``lines`` are.

    ``see_above`` is whether its inputs stand where its key came first.
    """
    told = set() if told is None else told
    inside = figure.inputs if figure.origin != "typed" else ()
    above = bool(inside) and figure.key in told
    told.add(figure.key)
    parts = () if above or depth == deepest else inside
    return {
        "key": figure.key,
        **as_json(figure),
        "see_above": above,
        "inputs": [unfolded(part, depth + 1, deepest, told) for part in parts],
    }


def lines(
    figure: Figure,
    depth: int = 0,
    deepest: int | None = None,
    told: set[str] | None = None,
) -> Iterator[str]:
    """A figure and its inputs, one line each, indented by depth.

    What was told before is named once more and not unfolded again, nor is what lies deeper than
    ``deepest``; ``told`` holds the keys of what was.
    """
    words = [f"{'  ' * depth}{say(figure.value, figure.unit)}", f"{spoken(in_line(figure.label))}"]
    if figure.origin != "computed":
        words.append(f"[{ORIGIN_WORDS[figure.origin]}]")
    elif figure.assumed:
        words.append("[from assumed values]")
    if figure.origin not in ("typed", "default"):
        words.append(f"= {spoken(figure.rule)} ({spoken(figure.source)})")
    told = set() if told is None else told
    inside = figure.inputs if figure.origin != "typed" else ()
    if inside and figure.key in told:
        yield "  ".join([*words, "(see above)"])
        return
    told.add(figure.key)
    if inside and depth == deepest:
        yield "  ".join([*words, f"(of {len(inside)} more: --depth {depth + 1})"])
        return
    yield "  ".join(words)
    for part in inside:
        yield from lines(part, depth + 1, deepest, told)
