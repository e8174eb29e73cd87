"""Plain text tables for a terminal."""

from __future__ import annotations

from collections.abc import Sequence


def table(head: Sequence[str], rows: Sequence[Sequence[str]], left: Sequence[int] = (0,)) -> str:
    """Columns as wide as they need, ``left`` ones aligned left, the others right."""
    widths = [max(len(line[place]) for line in (head, *rows)) for place in range(len(head))]

    def line(cells: Sequence[str]) -> str:
        return "  ".join(
            cell.ljust(width) if place in left else cell.rjust(width)
            for place, (cell, width) in enumerate(zip(cells, widths, strict=True))
        ).rstrip()

    return "\n".join([line(head), "  ".join("-" * width for width in widths), *map(line, rows)])
