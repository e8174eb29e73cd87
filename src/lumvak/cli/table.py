"""Text for a terminal: plain tables, and JSON."""

from __future__ import annotations

import json
import sys
from collections.abc import Sequence
from typing import Any

from lumvak.core.spelling import spoken


def table(head: Sequence[str], rows: Sequence[Sequence[str]], left: Sequence[int] = (0,)) -> str:
    """Columns as wide as they need, ``left`` ones aligned left, the others right."""
    widths = [max(len(line[place]) for line in (head, *rows)) for place in range(len(head))]

    def line(cells: Sequence[str]) -> str:
        return "  ".join(
            cell.ljust(width) if place in left else cell.rjust(width)
            for place, (cell, width) in enumerate(zip(cells, widths, strict=True))
        ).rstrip()

    return "\n".join([line(head), "  ".join("-" * width for width in widths), *map(line, rows)])


def json_text(document: Any) -> str:
    """A document as JSON, in signs that the output can show."""
    plain = (getattr(sys.stdout, "encoding", None) or "utf-8").lower().startswith("utf")
    return json.dumps(document, ensure_ascii=not plain, indent=1, default=spoken)
