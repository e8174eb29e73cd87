"""The projects that come along to look at."""

from __future__ import annotations

import json
from importlib.resources import files
from pathlib import Path
from typing import Any

from lumvak.files.project_file import SUFFIX

# In which ways a project begins.
WAYS = {"need": "From a need", "tool": "From an old tool", "found": "From a pack as found"}


def samples() -> tuple[tuple[str, Path], ...]:
    """Name and path of each sample project, by name."""
    return tuple((str(document["name"]), path) for path, document in _read())


def samples_by_way() -> dict[str, tuple[tuple[str, Path], ...]]:
    """The sample projects by the way in which each begins, in the order of WAYS."""
    found: dict[str, tuple[tuple[str, Path], ...]] = dict.fromkeys(WAYS, ())
    for path, document in _read():
        way = _way_of(document)
        found[way] = (*found[way], (str(document["name"]), path))
    return found


def _read() -> list[tuple[Path, dict[str, Any]]]:
    folder = Path(str(files("lumvak"))) / "data" / "demos"
    return [
        (path, json.loads(path.read_text("utf-8"))) for path in sorted(folder.glob(f"*{SUFFIX}"))
    ]


def _way_of(document: dict[str, Any]) -> str:
    if document.get("as_found", {}).get("begun"):
        return "found"
    return "tool" if document.get("need", {}).get("nickel_cells") is not None else "need"
