"""Parts at hand as examples: those named lie in the windows."""

from lumvak.core.cells.cell_model import minimum_capacity
from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.examples import examples, examples_said, missed_by
from lumvak.core.specification.topic import specification_in_hand
from lumvak.core.spelling import spoken


def test_a_cell_without_the_charge_is_out_by_its_capacity(evaluation: Evaluation) -> None:
    specification, sized = specification_in_hand(evaluation), evaluation.sized
    missed = missed_by(specification.of("cell"), evaluation)
    assert missed is not None
    assert missed(sized.choice.cell) == ()
    least = sized.pack.needs["capacity"].number * minimum_capacity(sized.choice.cell).number
    for cell in sized.parts.cells.values():
        short = sized.choice.parallel * minimum_capacity(cell).number < least - 1e-9
        assert ("capacity_min_ah" in missed(cell)) == short


def test_those_that_lie_in_the_windows_come_first(evaluation: Evaluation) -> None:
    specification = specification_in_hand(evaluation)
    for part in specification.parts:
        found = examples(part, evaluation)
        if not found:
            assert missed_by(part, evaluation) is None
            assert examples_said(part, found) == ""
            continue
        counts = [len(item.missed) for item in found]
        assert counts == sorted(counts)
    fuse = specification.of("fuse")
    words = spoken(examples_said(fuse, examples(fuse, evaluation)))
    assert words.startswith("Examples at hand, made up: ")
    none = tuple(item for item in examples(fuse, evaluation) if item.missed)
    assert "is out by" in spoken(examples_said(fuse, none))
