"""What a topic beside the path offers to an evaluation."""

from __future__ import annotations

from typing import Protocol

from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link


class Topic(Protocol):
    """A record with its figures, the links it adds to the path, and what there is to notice."""

    @property
    def figures(self) -> tuple[Figure, ...]:
        """What it made."""

    @property
    def links(self) -> tuple[Link, ...]:
        """What it adds to the path, towards the equipment."""

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What it has to say."""
