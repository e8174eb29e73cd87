"""The projects that come along to look at."""

from __future__ import annotations

import json
from importlib.resources import files
from pathlib import Path

from lumvak.files.project_file import SUFFIX


def samples() -> tuple[tuple[str, Path], ...]:
    """Name and path of each sample project, by name."""
    folder = Path(str(files("lumvak"))) / "data" / "demos"
    found = sorted(folder.glob(f"*{SUFFIX}"))
    return tuple((str(json.loads(path.read_text("utf-8"))["name"]), path) for path in found)
