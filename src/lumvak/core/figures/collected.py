"""Figures, links and findings of several topics, put together."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import chain

from lumvak.core.figures.figure import Figure, walk
from lumvak.core.figures.finding import SEVERITIES, Finding
from lumvak.core.figures.link import Link


def by_key(*groups: tuple[Figure, ...]) -> Mapping[str, Figure]:
    """Figures and all that they were made from, by key."""
    return {figure.key: figure for figure in walk(chain.from_iterable(groups))}


def limits_of(links: tuple[Link, ...]) -> tuple[Figure, ...]:
    """The figures of what links carry for good."""
    return tuple(link.limit for link in links)


def worst_first(*groups: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Findings sorted by how bad they are."""
    return tuple(
        sorted(chain.from_iterable(groups), key=lambda item: SEVERITIES.index(item.severity))
    )
