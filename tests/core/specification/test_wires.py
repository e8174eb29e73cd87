"""The windows of leads: the least section, held against bisecting the wire itself."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.specification.wires import leads_spec, main_leads_asked, some_fuse
from tests.length import so_many
from tests.needs import builders_need
from tests.specified import against, missed, picked, pinned, random_part


def test_by_density_it_is_amps_over_density(barrow: Project, catalogue: Catalogue) -> None:
    changes = {"leads.school": "rule", "leads.rule_a_per_mm2": 4.0, "power.fuse": "none"}
    asked = main_leads_asked(evaluate(with_values(barrow, changes), catalogue))
    least = leads_spec(asked).of("area_mm2").bounds[0]
    # The peak asks for no more: for six seconds a wire carries over twice its continuous current.
    assert least == pytest.approx(22.0 / 4.0, rel=1e-6)


def test_by_loss_it_is_length_and_resistivity(barrow: Project, catalogue: Catalogue) -> None:
    changes = {"leads.school": "loss", "leads.loss_mv": 100.0, "power.fuse": "none"}
    project = with_values(barrow, changes)
    asked = main_leads_asked(evaluate(project, catalogue))
    least = leads_spec(asked).of("area_mm2").bounds[0]
    both_m = 2.0 * project.leads.length_m
    assert least == pytest.approx(1.724e-2 * both_m * 22.0 / 0.1, rel=2e-3)


def test_where_a_fuse_sets_it_the_next_thinner_gauge_has_none(
    barrow: Project, catalogue: Catalogue
) -> None:
    asked = main_leads_asked(evaluate(barrow, catalogue))
    window = leads_spec(asked).of("area_mm2")
    assert window.set_by == "fuse"
    assert some_fuse(asked.fuse.setting)


@settings(max_examples=so_many(8, 80), deadline=None)
@given(seed=st.integers(0, 10**6), kind=st.sampled_from(("leads", "charge-leads")))
def test_a_random_wire_is_called_good_where_nothing_speaks_against_it(
    catalogue: Catalogue, seed: int, kind: str
) -> None:
    project = builders_need(seed % 400)
    project = pinned(project, evaluate(project, catalogue))
    evaluation = evaluate(project, catalogue)
    part = random_part(kind, evaluation, random.Random(seed))
    by_engine = against(evaluate(picked(project, kind, part), catalogue), kind)
    assert bool(by_engine) == bool(missed(kind, part, evaluation)), by_engine
