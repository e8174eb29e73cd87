"""How the numbers of upgrades came about."""

from __future__ import annotations

from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.rating.upgrades import Upgrade

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
RAISED_A = Rule("rating.with.{}.{}_a", "The path with {}", "A",
                "the least of all links once the {} and those before are raised", "methods 13")
# fmt: on


def step_figure(step: Upgrade, limit: Figure) -> Figure:
    """What an upgrade raises the path to; ``limit`` is what its link carries now."""
    return RAISED_A.of(
        step.to_a,
        limit,
        key=(step.link, step.changes[0][1] if step.changes else "more"),
        label=step.what,
        rule=step.name,
    )
