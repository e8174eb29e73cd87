"""Figures of an audit lead to what was seen."""

import pytest
from msgspec.structs import replace

from lumvak.core.as_found.audit import audited
from lumvak.core.as_found.figures import audit_figures, seen_figure, sold_and_given
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.figures.figure import walk
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from tests.core.as_found.test_risks import SOUND

PARTS = load_catalogue()[0]


def test_what_it_gives_leads_to_every_part_and_every_field() -> None:
    audit = audited(SOUND, PARTS)
    every = {it.key: it for it in walk(audit_figures(audit))}
    gives = every["as_found.continuous_a"]
    assert gives.number == pytest.approx(min(it.number for it in gives.inputs if it.value))
    assert every["as_found.continuous_low_a"].number == audit.continuous.low
    assert every["as_found.strips"].value == 4 and every["as_found.strips"].origin == "typed"
    assert every["as_found.holds_ah"].number == audit.capacity_ah.value
    assert every["as_found.lost"].inputs[0].key == "as_found.cycles"


def test_what_was_not_seen_is_assumed_through_to_the_result() -> None:
    figure = seen_figure(AsFound(), "strips")
    assert figure.assumed and figure.value == "not seen"
    bare = next(iter(audit_figures(audited(AsFound(), PARTS))))
    assert bare.assumed
    assert seen_figure(SOUND, "bleeds").value == "yes"
    assert seen_figure(SOUND, "group_v").value == 10


def test_a_measured_charge_says_that_it_was() -> None:
    audit = audited(replace(SOUND, measured_ah=8.0), PARTS)
    holds = next(it for it in audit_figures(audit) if it.key == "as_found.holds_ah")
    assert holds.number == 8.0 and spoken(holds.rule) == "as measured"


def test_what_was_sold_stands_beside_what_it_gives() -> None:
    told = spoken(sold_and_given(audited(SOUND, PARTS)))
    assert told.startswith("Sold as 15 A: ") and "set by its" in told
