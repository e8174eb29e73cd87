"""The power path in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation

VIEWS = (
    ("board", "BMS"),
    ("settings", "settings"),
    ("parts", "leads and parts"),
    ("order", "protection"),
    ("start", "start"),
    ("rating", "rating"),
    ("rest", "storage"),
    ("shop", "shop"),
)


def power_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    board = evaluation.board.board.name if evaluation.board else "no BMS serves"
    fuse = evaluation.power.fuse.part
    return f"{board}, {fuse.name if fuse is not None else 'no fuse'}"
