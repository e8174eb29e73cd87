"""From the need to cells and count: the steps, and what each of them rests on."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue, UnknownPart
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.sized import size
from lumvak.core.sizing.search import Filters
from lumvak.core.steps import Steps


def test_a_search_that_was_made_is_not_made_again(barrow: Project, catalogue: Catalogue) -> None:
    first = size(barrow, catalogue, Filters(), None, None, Steps())
    steps = Steps()
    again = size(barrow, catalogue, Filters(), first.options, None, steps)
    assert "search" not in steps.ran
    assert again.options is first.options
    assert again.sized_pack.choice == first.sized_pack.choice


def test_the_cells_in_hand_belong_to_the_pack_in_hand(
    barrow: Project, catalogue: Catalogue
) -> None:
    sized = size(barrow, catalogue, Filters(), None, None, Steps())
    assert sized.in_hand.seats == sized.sized_pack.choice.series * sized.sized_pack.choice.parallel
    more = with_values(barrow, {"pack.parallel": sized.sized_pack.choice.parallel + 1})
    wider = size(more, catalogue, Filters(), None, None, Steps())
    assert wider.in_hand.seats == sized.in_hand.seats + sized.sized_pack.choice.series


def test_a_part_that_nobody_knows_is_refused(barrow: Project, catalogue: Catalogue) -> None:
    with pytest.raises(UnknownPart):
        size(
            with_values(barrow, {"pack.cell": "nobody"}), catalogue, Filters(), None, None, Steps()
        )
