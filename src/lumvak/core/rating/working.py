"""How the numbers of upgrades came about."""

from __future__ import annotations

from lumvak.core.figures.figure import Figure, computed
from lumvak.core.rating.upgrades import Step
from lumvak.core.said import phrase


def step_figure(step: Step, limit: Figure) -> Figure:
    """What an upgrade raises the path to; ``limit`` is what its link carries now."""
    return computed(
        f"rating.with.{step.link}.{step.changes[0][1] if step.changes else 'more'}_a",
        phrase("The path with {}", step.what),
        step.to_a,
        "A",
        phrase("the least of all links once the {} and those before are raised", step.name),
        "methods 13",
        limit,
    )
