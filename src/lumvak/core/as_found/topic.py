"""A found pack among the topics of an evaluation; nothing where the project begins from a need."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from msgspec import Struct

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding, Severity
from lumvak.core.figures.link import Link

if TYPE_CHECKING:
    from lumvak.core.as_found.audit import Audit

STAGE = "as_found"
# What is left of the verdict, at best.
LEAVES = {
    "use": "It bars no use by itself.",
    "use-within": "At best it may be used within limits.",
    "rebuild": "It has to be rebuilt before it is used.",
    "recycle": "It has to be recycled.",
}


class FoundTopic(Struct, frozen=True, eq=False):
    """The audit of a found pack, ``None`` where the project begins from a need."""

    audit: Audit | None = None
    figures: tuple[Figure, ...] = ()
    findings: tuple[Finding, ...] = ()
    links: tuple[Link, ...] = ()


def found_topic(found: AsFound, parts: Catalogue) -> FoundTopic:
    """The audit of what was seen, with its figures and what there is to notice."""
    if not found.begun:
        return FoundTopic()
    # Most projects begin from a need: what audits is loaded for those alone that do not.
    from lumvak.core.as_found.audit import audited
    from lumvak.core.as_found.figures import audit_figures

    audit = audited(found, parts)
    return FoundTopic(audit, tuple(audit_figures(audit)), tuple(_findings(audit)))


def _findings(audit: Audit) -> Iterator[Finding]:
    """What is there, each by itself; what was not ruled out is told in the stage."""
    for risk in audit.risks:
        if risk.standing != "there":
            continue
        severity: Severity = "warn" if risk.weight == "high" else "note"
        yield Finding(
            f"found-{risk.code}",
            "stop" if risk.leaves == "recycle" else severity,
            text=risk.text,
            why=LEAVES[risk.leaves],
            do=risk.do,
            stage=STAGE,
            figure="as_found.continuous_a" if risk.code == "less" else "",
            cure=f"as_found.{risk.fields[0]}",
        )
    odd = audit.known.series.odd
    if odd is not None:
        yield Finding(
            "found-counts",
            "note",
            text=f"Its groups counted by {odd.words} are others than by the rest",
            why=audit.known.series.why,
            do="Count once more, along the strips.",
            stage=STAGE,
            cure=f"as_found.{odd.field}",
        )
