"""What a found pack gives and holds, as figures that explain themselves (methods 45)."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

from lumvak.core.as_found.audit import Audit
from lumvak.core.as_found.limits import FoundLink
from lumvak.core.document.afterwards.as_found import AsFound, is_seen
from lumvak.core.document.edit import field_of
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.said import Text, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
UNSEEN = Rule("as_found.{}", "{}", "", "not seen: anything that is usual", "methods 45")
LINK_A = Rule("as_found.{}_a", "{}, as found", "A", "{}", "methods 45")
END_A = Rule("as_found.{}_{}_a", "{}, {}", "A", "what was seen is sure to a share, what was not "
             "has its whole span", "methods 45")
GIVES_A = Rule("as_found.{}_a", "It gives {}", "A", "the least that any part holds for so long: {}",
               "methods 45")
LOST = Rule("as_found.lost", "Lost of its charge", "%", "a fifth × charges ÷ those of a life + a "
            "share a year's root, by how it stood", "methods 45")
HOLDS_AH = Rule("as_found.holds_ah", "It holds", "Ah", "{}", "methods 45")
END_AH = Rule("as_found.holds_{}_ah", "It holds, {}", "Ah", "what was not seen has its whole span",
              "methods 45")
# fmt: on
HOLDS: dict[str, str] = {
    "measured": "as measured",
    "age": "cells × their charge when new × what is not lost × what level groups let draw",
}
PLACES: tuple[tuple[str, Text], ...] = (
    ("continuous", phrase("continuously")),
    ("10_s", "for 10 s"),
    ("1_s", "for 1 s"),
)
ENDS: tuple[tuple[str, str], ...] = (("low", "at least"), ("high", "at most"))


def seen_figure(found: AsFound, field: str) -> Figure:
    """A field of the record as it was seen, or as not seen."""
    path = f"as_found.{field}"
    title = field_of(path).title
    if not is_seen(found, field):
        return UNSEEN.assumed("not seen", key=field, label=title)
    value: Any = getattr(found, field)
    if isinstance(value, bool):
        value = "yes" if value else "no"
    if isinstance(value, tuple):
        value = len(value)
    return typed(path, title, value, field_of(path).unit, getattr(found, field))


def link_figure(found: AsFound, link: FoundLink) -> Figure:
    """What a part carries continuously, with the fields that set it."""
    inputs = [seen_figure(found, field) for field in link.fields]
    amps = link.continuous.value
    return LINK_A.of(
        amps if math.isfinite(amps) else None,
        *inputs,
        key=link.key,
        label=link.name,
        rule=link.detail,
    )


def audit_figures(audit: Audit) -> Iterator[Figure]:
    """What it gives for each time, with its band, and what it holds."""
    found = audit.found
    links = {it.key: link_figure(found, it) for it in audit.links}
    for place, (name, words) in enumerate(PLACES):
        weak = min(audit.links, key=lambda it: it.carries[place].value)
        gives = GIVES_A.of(
            audit.rating[place].value, *links.values(), key=name, label=words, rule=weak.name
        )
        yield gives
        for end, told in ENDS:
            value = getattr(audit.rating[place], end)
            yield END_A.of(
                value if math.isfinite(value) else None,
                gives,
                key=(name, end),
                label=(gives.label, told),
            )
    yield from _holds(audit)


def _holds(audit: Audit) -> Iterator[Figure]:
    found, wear = audit.found, audit.known.wear
    if wear.by == "measured":
        holds = HOLDS_AH.of(
            wear.capacity_ah.value, seen_figure(found, "measured_ah"), rule=HOLDS["measured"]
        )
    else:
        aged = [seen_figure(found, field) for field in ("cycles", "years", "stored")]
        lost = LOST.of(wear.lost.value, *aged)
        fields = ("cell", "form", "parallel", "promised_ah", "group_v")
        holds = HOLDS_AH.of(
            wear.capacity_ah.value,
            lost,
            *(seen_figure(found, field) for field in fields),
            rule=HOLDS["age"],
        )
    yield holds
    for end, told in ENDS:
        yield END_AH.of(getattr(wear.capacity_ah, end), holds, key=end, label=told)


def sold_and_given(audit: Audit) -> Text:
    """What it was sold as against what it gives, and what sets that, in one line."""
    gives = say(audit.continuous.value, "A", "as_found.continuous_a")
    weak = audit.set_by
    if audit.found.promised_a is None:
        return phrase("{}, set by its {} ({})", gives, weak.name, weak.detail)
    return phrase(
        "Sold as {}: {}, set by its {} ({})",
        say(audit.found.promised_a, "A"),
        gives,
        weak.name,
        weak.detail,
    )
