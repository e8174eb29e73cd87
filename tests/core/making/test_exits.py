"""Where the main leads leave: along the edges, by hand; too short, too sharp."""

from typing import Any

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation

OUT = {"name": "cable gland", "kind": "leads", "x_mm": 100.0, "y_mm": 100.0, "length_mm": 40.0,
       "width_mm": 20.0, "height_mm": 20.0}  # fmt: skip


def looked(catalogue: Catalogue, out: dict[str, Any], **leads: float) -> Evaluation:
    values = {
        "pack.cell": "ostrel-21-48",
        "pack.series": 4,
        "pack.parallel": 2,
        "leads.area_mm2": 4.0,
        "arrangement.kept_free": (out,),
        **{f"leads.{name}": value for name, value in leads.items()},
    }
    return evaluate(with_values(Project(), values), catalogue)


def codes(evaluation: Evaluation) -> set[str]:
    return {item.code for item in evaluation.findings if item.code.startswith("exit-")}


def test_the_way_within_the_case_runs_along_the_edges(catalogue: Catalogue) -> None:
    evaluation = looked(catalogue, OUT, length_m=2.0)
    middle = np.array([120.0, 110.0, 10.0])
    for name, pole in (("minus", "-"), ("plus", "+")):
        lead = next(item for item in evaluation.laid_out.joined_pack.leads if item.pole == pole)
        way = np.abs(
            evaluation.laid_out.joined_pack.layout.terminal_mm[lead.terminal] - middle
        ).sum()
        assert evaluation.figures[f"exit.{name}_mm"].number == pytest.approx(1.15 * way)
    assert codes(evaluation) == {"exit-held"}


def test_leads_that_end_before_they_are_out_are_told(catalogue: Catalogue) -> None:
    assert codes(looked(catalogue, OUT, length_m=0.05)) == {"exit-held", "exit-far"}


def test_no_room_to_bend_is_told(catalogue: Catalogue) -> None:
    """A lead of 5 mm bends over 20 mm."""
    for long, told in ((19.0, True), (21.0, False)):
        out = {**OUT, "length_mm": long, "width_mm": 12.0}
        evaluation = looked(catalogue, out, length_m=2.0, outer_mm=5.0)
        assert ("exit-tight" in codes(evaluation)) == told


def test_nothing_is_said_where_no_way_out_is_drawn(catalogue: Catalogue) -> None:
    evaluation = looked(catalogue, {**OUT, "kind": "other"})
    assert not codes(evaluation) and "exit.bend_mm" not in evaluation.figures
