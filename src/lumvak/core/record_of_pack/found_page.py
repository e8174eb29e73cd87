"""One page about a pack as found, fit to be given to its owner."""

from __future__ import annotations

from lumvak.core.as_found.audit import Audit
from lumvak.core.as_found.figures import sold_and_given
from lumvak.core.as_found.risks import Verdict
from lumvak.core.as_found.span import Span
from lumvak.core.record_of_pack.report import Report, ReportPart, ReportTable
from lumvak.core.said import Text, listed, phrase, say

VERDICT_WORDS: dict[Verdict, str] = {
    "use": "May be used",
    "use-within": "May be used within these limits",
    "rebuild": "To be rebuilt before it is used",
    "recycle": "To be recycled",
}
CAUTION = (
    "Before the wrapper comes off: discharge to about half, rings off, insulated tools, one lead "
    "at a time, eyes covered, a way to carry it outside. Over 60 V DC is dangerous to touch. This "
    "page certifies nothing: local rules and licensed practice stand over it."
)
MOST_RISKS, MOST_PARTS, MOST_STEPS, MOST_LOOKS = 6, 6, 3, 5


def verdict_said(audit: Audit) -> Text:
    """The verdict in a line, with what it waits for."""
    words = VERDICT_WORDS[audit.verdict]
    if audit.verdict == "use-within":
        held = phrase(
            "{}: {} continuously, {} for 10 s, {} for 1 s",
            words,
            *(say(it.low, "A") for it in audit.rating),
        )
    else:
        held = phrase("{}", words)
    if audit.at_best == audit.verdict:
        return held
    return phrase(
        "{}, as long as not all was seen; where the rest is sound: {}",
        held,
        VERDICT_WORDS[audit.at_best].lower(),
    )


def found_page(audit: Audit, name: str) -> Report:
    """The page of a pack called ``name``."""
    reasons = ReportTable(
        ("what", "so", "what ends it"),
        tuple((it.text, it.standing, it.do) for it in audit.risks[:MOST_RISKS]),
    )
    gives = tuple(
        _row(words, span, "A")
        for words, span in zip(("continuous", "for 10 s", "for 1 s"), audit.rating, strict=True)
    )
    charge = _row("it holds", audit.capacity_ah, "Ah")
    links = tuple(
        (it.name, it.detail, *_ends(it.continuous, "A"))
        for it in sorted(audit.links, key=lambda it: it.continuous.value)[:MOST_PARTS]
    )
    parts = [
        ReportPart("verdict", "Verdict", (verdict_said(audit),), tables=(reasons,)),
        ReportPart(
            "gives",
            "What it gives",
            (sold_and_given(audit),),
            tables=(
                ReportTable(("", "at least", "likely", "at most"), (*gives, charge)),
                ReportTable(("part", "as seen", "at least", "likely", "at most"), links),
            ),
        ),
    ]
    steps = tuple(
        (it.what, say(it.to_a, "A"), say(it.cost, "money"), say(it.minutes, "min"))
        for it in audit.upgrades[:MOST_STEPS]
        if it.cost is not None
    )
    if steps:
        table = ReportTable(("step", "then gives", "costs", "work"), steps)
        parts.append(ReportPart("steps", "What would strengthen it", tables=(table,)))
    looks = [phrase("{} ({})", it.words, it.effort) for it in audit.looks[:MOST_LOOKS]]
    if looks:
        told = phrase("Not seen, the most telling first: {}.", listed(looks))
        parts.append(ReportPart("looks", "What to look at next", (told,)))
    parts.append(ReportPart("care", "Care", (CAUTION,)))
    return Report(f"{name}, as found", VERDICT_WORDS[audit.verdict], tuple(parts))


def _ends(span: Span, unit: str) -> tuple[Text, Text, Text]:
    return (_amount(span.low, unit), _amount(span.value, unit), _amount(span.high, unit))


def _amount(value: float, unit: str) -> Text:
    return "no limit" if value == float("inf") else say(value, unit)


def _row(words: str, span: Span, unit: str) -> tuple[Text, Text, Text, Text]:
    return (words, *_ends(span, unit))
