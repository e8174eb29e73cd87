"""``lumvak explain``: the working of one figure, down to what was typed."""

from __future__ import annotations

import argparse
import difflib
from collections.abc import Iterator
from typing import Any

from lumvak.cli.command import Refuse
from lumvak.cli.project.evaluate import read_evaluation
from lumvak.cli.spelled import say
from lumvak.cli.table import json_text
from lumvak.cli.told import complain
from lumvak.core.figures.figure import ORIGIN_WORDS, Figure, as_json
from lumvak.core.said import in_line
from lumvak.core.spelling import spoken


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print a figure's working; 0 when done, 2 where file or key cannot be used."""
    seen = read_evaluation("lumvak explain", chosen.file, chosen.catalogue)
    if seen is None:
        return 2
    figure = seen.figures.get(chosen.key)
    if figure is None:
        near = difflib.get_close_matches(chosen.key, list(seen.figures), n=3, cutoff=0.4)
        hint = f"did you mean {', '.join(near)}?" if near else "see “lumvak evaluate”"
        complain("lumvak explain", f"no figure “{chosen.key}”; {hint}")
        return 2
    if chosen.json:
        print(json_text(unfolded(figure)))
    else:
        print("\n".join(lines(figure)))
    return 0


def unfolded(figure: Figure) -> dict[str, Any]:
    """A figure as JSON with its inputs inside it."""
    return {
        "key": figure.key,
        **as_json(figure),
        "inputs": [unfolded(part) for part in figure.inputs],
    }


def lines(figure: Figure, depth: int = 0) -> Iterator[str]:
    """A figure and its inputs, one line each, indented by depth."""
    words = [f"{'  ' * depth}{say(figure.value, figure.unit)}", f"{spoken(in_line(figure.label))}"]
    if figure.origin != "computed":
        words.append(f"[{ORIGIN_WORDS[figure.origin]}]")
    elif figure.assumed:
        words.append("[from assumed values]")
    if figure.origin not in ("typed", "default"):
        words.append(f"= {spoken(figure.rule)} ({spoken(figure.source)})")
    yield "  ".join(words)
    for part in figure.inputs:
        yield from lines(part, depth + 1)
