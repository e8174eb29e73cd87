"""The power path in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation

VIEWS = (
    ("board", "board"),
    ("settings", "settings"),
    ("parts", "leads and parts"),
    ("order", "what opens first"),
    ("start", "start"),
    ("rating", "rating"),
    ("rest", "rest"),
)


def power_answer(seen: Evaluation) -> str:
    """What the build line says of the stage."""
    board = seen.board.board.name if seen.board else "no board serves"
    fuse = seen.power.fuse.part
    return f"{board}, {fuse.name if fuse is not None else 'no fuse'}"
