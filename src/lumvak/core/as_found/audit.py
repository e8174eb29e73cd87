"""The audit of a pack as it is found: what it gives, what it holds, and the verdict on it."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.as_found.known import KnownOfPack, known_of
from lumvak.core.as_found.limits import TIMES_S, FoundLink, held_for, links_of, weakest_of
from lumvak.core.as_found.looks import Look, LookAll, at_once, looks_of
from lumvak.core.as_found.risks import VERDICTS, Risk, Verdict, risks_of, worst_of
from lumvak.core.as_found.span import Span
from lumvak.core.as_found.upgrades import FoundUpgrade, upgrades_of
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.as_found import AsFound


class Audit(Struct, frozen=True, eq=False):
    """What is made of a found pack.

    ``rating`` is what it gives for each of TIMES_S; ``set_by`` what likely sets that for good;
    ``verdict`` is never better than the worst that was not seen allows, ``at_best`` what it comes
    to where all of that turns out well.
    """

    found: AsFound
    known: KnownOfPack
    links: tuple[FoundLink, ...]
    rating: tuple[Span, ...]
    set_by: FoundLink
    risks: tuple[Risk, ...]
    verdict: Verdict
    at_best: Verdict
    upgrades: tuple[FoundUpgrade, ...]
    looks: tuple[Look, ...]
    efforts: tuple[LookAll, ...]

    @property
    def continuous(self) -> Span:
        """What it gives for good, in A."""
        return self.rating[0]

    @property
    def capacity_ah(self) -> Span:
        """What it holds, in Ah."""
        return self.known.wear.capacity_ah

    @property
    def reasons(self) -> tuple[Risk, ...]:
        """The risks that hold the verdict where it is; the first that bars a better one first."""
        return tuple(it for it in self.risks if it.leaves == self.verdict)


def audited(found: AsFound, parts: Catalogue) -> Audit:
    """The audit of a pack of which so much was seen."""
    known = known_of(found, parts)
    links = links_of(found, known)
    risks = risks_of(found, known, links)
    verdict = worst_of(tuple(it.leaves for it in risks))
    at_best = worst_of(tuple(it.leaves for it in risks if it.standing == "there"))
    held = frozenset(
        field
        for it in risks
        if it.standing == "not ruled out" and VERDICTS.index(it.leaves) > VERDICTS.index(at_best)
        for field in it.fields
    )
    looks = looks_of(found, parts, held)
    return Audit(
        found=found,
        known=known,
        links=links,
        rating=tuple(held_for(links, place) for place in range(len(TIMES_S))),
        set_by=weakest_of(links),
        risks=risks,
        verdict=verdict,
        at_best=at_best,
        upgrades=upgrades_of(found, known, parts),
        looks=looks,
        efforts=at_once(found, parts, looks),
    )
