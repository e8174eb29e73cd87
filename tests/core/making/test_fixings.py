from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, fixings_in_hand, steps_in_hand
from lumvak.core.spelling import spoken


def test_every_positive_end_of_a_welded_pack_has_a_ring(evaluation: Evaluation) -> None:
    assert [(spoken(item.name), item.count) for item in fixings_in_hand(evaluation)] == [
        ("insulating ring", 98)
    ]


def test_a_post_has_one_screw_whatever_lies_on_it(catalogue: Catalogue) -> None:
    blocks = {"pack.cell": "fennimor-b-105", "pack.series": 4, "pack.parallel": 2}
    evaluation = evaluate(with_values(Project(), blocks), catalogue)
    # All posts but none twice: bars lie over both groups of a joint, and over each end group.
    assert [(spoken(item.name), item.count) for item in fixings_in_hand(evaluation)] == [
        ("screw M6", 16),
        ("washer M6, 12 mm", 16),
    ]
    smaller = evaluate(with_values(Project(), {**blocks, "joints.thread": "M5"}), catalogue)
    assert spoken(fixings_in_hand(smaller)[0].name) == "screw M5"
    assert {hole.diameter_mm for cut in smaller.cuts for hole in cut.holes} == {5.5}


def test_the_barrier_is_laid_before_what_crosses_it(barrow: Project, catalogue: Catalogue) -> None:
    wide = {
        "joints.group.part": "nickel-0.2x15",
        "joints.group.width_mm": 30.0,
        "joints.barrier_mm": 0.25,
    }
    texts = [step.text for step in steps_in_hand(evaluate(with_values(barrow, wide), catalogue))]
    place = next(
        at for at, text in enumerate(texts) if "Lay the barrier of 0.25 mm" in spoken(text)
    )
    assert place < next(
        at for at, text in enumerate(texts) if "the pieces within the groups" in spoken(text)
    )


def test_a_bar_narrower_than_its_washers_is_told(catalogue: Catalogue) -> None:
    blocks = {"pack.cell": "fennimor-b-105", "pack.series": 4, "pack.parallel": 1}
    for width, told in ((11.5, True), (12.0, False)):
        own = {**blocks, "joints.series.part": "copper-bar-3x25", "joints.series.width_mm": width}
        evaluation = evaluate(with_values(Project(), own), catalogue)
        assert ("bar-narrow" in {item.code for item in evaluation.findings}) == told
