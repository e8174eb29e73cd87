"""How the numbers of upgrades came about."""

from __future__ import annotations

from lumvak.core.figures.figure import Figure, computed
from lumvak.core.rating.upgrades import Step


def step_figure(step: Step, limit: Figure) -> Figure:
    """What an upgrade raises the path to; ``limit`` is what its link carries now."""
    return computed(
        f"rating.with.{step.link}.{step.changes[0][1] if step.changes else 'more'}_a",
        f"The path with {step.what}",
        step.to_a,
        "A",
        f"the least of all links once the {step.name} and those before are raised",
        "methods 13",
        limit,
    )
