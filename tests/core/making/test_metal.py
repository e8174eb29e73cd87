"""The metal that is looked at is what is cut."""

import shapely
from shapely.geometry import Polygon

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.making.metal import metals_of, with_leads
from lumvak.core.spelling import spoken


def metals_in(evaluation: Evaluation):  # type: ignore[no-untyped-def]
    made, sections = evaluation.laid_out.made, evaluation.laid_out.joined_pack.sections
    laid = metals_of(
        evaluation.laid_out.joined_pack.pieces,
        sections.width_mm * sections.strips,
        sections.wire,
        made.plates,
        made.reach_mm,
        made.ends,
    )
    level = evaluation.laid_out.joined_pack.layout.level
    return with_leads(
        laid,
        level,
        made.ends,
        evaluation.laid_out.joined_pack.leads,
        evaluation.laid_out.taps.terminal,
    )


def test_every_piece_and_every_lead_is_metal_once(evaluation: Evaluation) -> None:
    metals = metals_in(evaluation)
    series = evaluation.laid_out.joined_pack.layout.series
    names = [spoken(metals.name(place)) for place in range(len(metals))]
    assert (
        len(metals)
        == len(evaluation.laid_out.joined_pack.pieces)
        + len(evaluation.laid_out.joined_pack.leads)
        + series
        + 1
    )
    assert len(set(names)) == len(names)
    assert names[-1] == f"balance lead {series}" and "main lead +" in names


def test_it_covers_what_is_cut_and_nothing_else(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    for project in demos.values():
        evaluation = evaluate(project, catalogue)
        metals = metals_in(evaluation)
        pieces = (
            len(metals)
            - len(evaluation.laid_out.joined_pack.leads)
            - evaluation.laid_out.joined_pack.layout.series
            - 1
        )
        laid = shapely.union_all(metals.shape[:pieces])
        cut = shapely.union_all(
            [Polygon(ring, item.windows) for item in evaluation.cuts for ring in item.outlines]
        )
        assert laid.symmetric_difference(cut).area < 1e-3 * cut.area
