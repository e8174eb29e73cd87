"""Cells in hand within the steps of an evaluation: worked again only where they changed."""

from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.steps import Steps
from tests.core.matching.test_matched import changed, roller

__all__ = ["roller"]
OURS = {"matched", "kinds_of", "given_by"}


def test_cells_are_judged_again_only_where_they_changed(
    roller: Project, catalogue: Catalogue
) -> None:
    steps = Steps()
    first = evaluate(roller, catalogue, steps=steps)
    assert set(steps.ran) >= OURS
    elsewhere = evaluate(with_values(roller, {"note": "x"}), catalogue, steps=steps)
    assert not OURS & set(steps.ran)
    assert elsewhere.sized.in_hand is first.sized.in_hand
    evaluate(changed(roller, 1, ah=2.2), catalogue, steps=steps)
    assert OURS & set(steps.ran) == {"matched"}


def test_a_lot_is_held_against_what_it_is_said_to_be(roller: Project, catalogue: Catalogue) -> None:
    lot = roller.hand.lots[0]
    for name in ("ostrel-21-48", "marrow-18-26r"):
        said = with_values(
            roller, {"hand.lots": (replace(lot, cell=name, capacity_a=None, capacity_to_v=None),)}
        )
        sheet = evaluate(said, catalogue).sized.in_hand.lots[0].sheet
        assert sheet is not None
        assert sheet.ah == catalogue.cells[name].capacity_typical_ah
