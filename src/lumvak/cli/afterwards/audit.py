"""``lumvak audit``: a pack as found, what it may give, and what to make of it."""

from __future__ import annotations

import argparse
import math
from typing import Any

from lumvak.cli.batch import run_batch
from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import read_project
from lumvak.cli.spelled import say
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.cli.written import suffix_of, write_out
from lumvak.core.as_found.audit import Audit, audited
from lumvak.core.as_found.figures import sold_and_given
from lumvak.core.as_found.span import Span
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import made
from lumvak.core.document.afterwards.as_found import NOTHING, AsFound
from lumvak.core.record_of_pack.found_page import verdict_said
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.export.found_page import SUFFIXES, page_bytes
from lumvak.files.problem import FileProblem

BATCH_WANTS = '{"as_found": {"parallel": 4, "strips": 1, "thickness_mm": 0.15, "width_mm": 7}}'
# 0 is a pack that may be used as it is.
USABLE = ("use", "use-within")


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Audit a pack; 0 where it may be used, 1 where not, 2 where the file is no good."""
    catalogue, problems = load_catalogue(chosen.catalogue)
    for problem in problems:
        complain("lumvak audit", problem)
    if chosen.batch:
        return run_batch(lambda asked: _asked(asked, catalogue), BATCH_WANTS)
    if chosen.file is None:
        refuse("a project is wanted, or --batch")
    suffix = "" if chosen.out is None else suffix_of(chosen.out, SUFFIXES, refuse)
    try:
        project = read_project(chosen.file, chosen.catalogue, chosen.set).project
        if project.as_found == NOTHING:
            raise FileProblem(
                f"{chosen.file} begins from a need, and says nothing that was seen of a pack; "
                "accepted: as_found"
            )
        audit = audited(project.as_found, catalogue.with_parts(project.parts))
        if chosen.out is not None:
            name = f"page{suffix}"
            page = page_bytes(audit, project.name, name)
            write_out(chosen.out, page, chosen.force, told=False)
    except FileProblem as problem:
        complain("lumvak audit", problem)
        return 2
    if str(chosen.out) != "-":
        tell(chosen, audit_json(audit), lambda: audit_text(audit))
    return int(audit.verdict not in USABLE)


def _asked(asked: Any, catalogue: Catalogue) -> dict[str, Any]:
    """One line of a batch: what was seen of a pack."""
    return audit_json(audited(made(AsFound, asked["as_found"]), catalogue))


def _span(span: Span) -> dict[str, float | None]:
    ends = {"value": span.value, "low": span.low, "high": span.high}
    return {key: value if math.isfinite(value) else None for key, value in ends.items()}


def audit_json(audit: Audit) -> dict[str, Any]:
    """What is made of a pack, as a script reads it."""
    found = audit.found
    return {
        "rating": {
            "continuous_a": _span(audit.rating[0]),
            "ten_s_a": _span(audit.rating[1]),
            "one_s_a": _span(audit.rating[2]),
        },
        "set_by": audit.set_by.key,
        "set_by_part": f"{audit.set_by.name}: {spoken(audit.set_by.detail)}",
        "promised_a": found.promised_a,
        "promised_ah": found.promised_ah,
        "capacity_ah": _span(audit.capacity_ah),
        "verdict": audit.verdict,
        "verdict_at_best": audit.at_best,
        "reasons": [spoken(it.text) for it in audit.reasons],
        "risks": [
            {
                "code": it.code,
                "standing": it.standing,
                "weight": it.weight,
                "leaves": it.leaves,
                "what": spoken(it.text),
                "do": spoken(it.do),
            }
            for it in audit.risks
        ],
        "parts": [
            {"key": it.key, "name": it.name, "detail": spoken(it.detail), **_span(it.continuous)}
            for it in audit.links
        ],
        "upgrades": [
            {
                "link": it.link,
                "what": spoken(it.what),
                "from_a": it.from_a,
                "to_a": it.to_a,
                "cost": it.cost,
                "minutes": it.minutes,
            }
            for it in audit.upgrades
        ],
        "unknown": [
            {
                "what": it.words,
                "field": it.field,
                "effort": it.effort,
                "settles": it.closes_a,
                "settles_ah": it.closes_ah,
                "lifts_verdict": it.lifts,
            }
            for it in audit.looks
        ],
    }


def audit_text(audit: Audit) -> str:
    """What is made of a pack, to read."""
    rows = [
        (it.name, spoken(it.detail), *(_amps(getattr(it.continuous, end)) for end in ENDS))
        for it in sorted(audit.links, key=lambda it: it.continuous.value)
    ]
    holds = audit.capacity_ah
    lines = [
        f"{spoken(sold_and_given(audit))}; {_amps(audit.continuous.low)} to "
        f"{_amps(audit.continuous.high)}.",
        f"It holds {say(holds.value, 'Ah')}, {say(holds.low, 'Ah')} to {say(holds.high, 'Ah')}.",
        f"{spoken(verdict_said(audit))}.",
        *(f"  {it.standing}: {spoken(it.text)}. {spoken(it.do)}" for it in audit.reasons),
        "",
        table(("part", "as seen", "at least", "likely", "at most"), rows),
    ]
    if audit.upgrades:
        lines += ["", "What would strengthen it:"]
        lines += [
            f"  {spoken(it.what)}: {say(it.from_a, 'A')} to {say(it.to_a, 'A')}"
            for it in audit.upgrades
        ]
    if audit.looks:
        lines += ["", "Not seen, the most telling for its effort first:"]
        lines += [f"  {it.words} ({it.effort})" for it in audit.looks]
    return "\n".join(lines)


ENDS = ("low", "value", "high")


def _amps(value: float) -> str:
    return say(value, "A") if math.isfinite(value) else "no limit"
