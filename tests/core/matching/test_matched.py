"""Cells in hand within the evaluation: who is good, what flows where they sit, what is said."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.matched import place_name
from lumvak.core.run.tolerance import draw
from lumvak.core.spelling import spoken
from lumvak.files.project_file import load_project
from tests.conftest import DEMOS


@pytest.fixture
def roller(catalogue: Catalogue) -> Project:
    return load_project(DEMOS / "seed-bed-roller.lumvak.json", catalogue)


def seated(project: Project, numbers: list[int], parallel: int) -> Project:
    placed = [
        {"number": number, "cell": place_name(*divmod(place, parallel))}
        for place, number in enumerate(numbers)
    ]
    return with_values(project, {"hand.placed": tuple(placed)})


def changed(project: Project, number: int, **values: object) -> Project:
    cells = tuple(
        replace(cell, **values) if cell.number == number else cell for cell in project.hand.cells
    )
    return with_values(project, {"hand.cells": cells})


def good(evaluation: Evaluation) -> list[int]:
    return [cell.number for cell in evaluation.sized.in_hand.good]


def codes(evaluation: Evaluation) -> set[str]:
    return {item.code for item in evaluation.findings if item.stage == "hand"}


def test_the_demo_has_its_planted_faults_and_no_others(
    roller: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(roller, catalogue)
    judged = evaluation.sized.in_hand.judged
    out = {
        number: {reason.code for reason in item.reasons}
        for number, item in judged.items()
        if item.state == "reject"
    }
    assert set(out) == {23, 41, 58, 66}
    assert out[23] == {"leaks"}
    assert out[41] == {"vented"}
    assert out[58] >= {"small", "resistance"}
    assert out[66] == {"dead"}
    slips = [item.text for item in evaluation.findings if item.code == "hand-number"]
    assert len(slips) == 2
    assert "37 may be meant" in spoken(slips[0])
    assert "72 may be meant" in spoken(slips[1])
    assert evaluation.figures["hand.good"].value == 86
    assert codes(evaluation) == {"hand-never", "hand-number"}


def test_nothing_is_said_of_a_project_without_cells_in_hand(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(barrow, catalogue)
    assert codes(evaluation) == set()
    assert not any(
        key.startswith("hand.") and not key.startswith("hand.l") for key in evaluation.figures
    )


def test_cells_in_their_places_feed_the_network_and_the_groups(
    roller: Project, catalogue: Catalogue
) -> None:
    before = evaluate(roller, catalogue)
    placed = seated(roller, good(before)[:84], 7)
    evaluation = evaluate(placed, catalogue)
    groups = evaluation.sized.in_hand.groups
    assert len(groups) == 12
    cells = {cell.number: cell for cell in roller.hand.cells}
    first = [cells[number] for number in groups[0].cells]
    assert groups[0].ah == pytest.approx(sum(cell.ah or 0.0 for cell in first))
    weakest = min(group.ah or 0.0 for group in groups)
    assert evaluation.figures["hand.weakest_ah"].number == pytest.approx(weakest)
    assert all(item.origin == "measured" for item in evaluation.figures["hand.weakest_ah"].inputs)
    # Where its cells come to rest lies between them, and the pack is all of them.
    volts = [cell.volts or 0.0 for cell in first]
    assert min(volts) <= (groups[0].volts or 0.0) <= max(volts)
    total = sum(group.volts or 0.0 for group in groups)
    assert evaluation.figures["hand.pack_v"].number == pytest.approx(total)
    # What was measured by AC counts as the DC that it stands for.
    network = evaluation.laid_out.joined_pack.network
    assert network is not None
    at = list(evaluation.laid_out.joined_pack.layout.name).index("g1c1")
    sheet = evaluation.sized.choice.cell
    assert sheet.resistance_dc_ohm is None
    assert network.cell_ohm[at] == pytest.approx((first[0].mohm or 0.0) * 1.5e-3)
    assert network.emf_v[at] == pytest.approx(first[0].volts)
    # The run counts the charge of the weakest group instead of the sheet's.
    ran, sheet_ran = evaluation.run.pack.capacity_ah, before.run.pack.capacity_ah
    assert ran / sheet_ran == pytest.approx(weakest / before.figures["pack.capacity_ah"].number)
    assert "hand.weakest_ah" in {item.key for item in evaluation.figures["run.time_h"].inputs}
    # And packs are drawn by the error of the measurement instead of the assumed spread.
    off = evaluation.sized.in_hand.capacity_off
    assert off is not None
    assert off.number == placed.hand.meter.ah_percent
    run, settings = evaluation.run.pack, placed.run
    measured, guessed = (draw(run, settings, item).capacity for item in (off, None))
    ratio = off.number / settings.capacity_spread
    assert 1.0 - measured == pytest.approx(ratio * (1.0 - guessed))
    by_place = with_values(placed, {"measured": ({"cell": "g1c1", "mohm": 99.0},)})
    again = evaluate(by_place, catalogue).laid_out.joined_pack.network
    assert again is not None
    assert again.cell_ohm[at] == pytest.approx(0.099)


def test_a_difference_over_the_limit_stops_and_says_how_to_level(
    roller: Project, catalogue: Catalogue
) -> None:
    numbers = good(evaluate(roller, catalogue))[:84]
    apart = seated(changed(roller, numbers[3], volts=4.1, later_v=4.098), numbers, 7)
    apart = changed(apart, numbers[3], verdict="keep", why="was charged")
    evaluation = evaluate(apart, catalogue)
    stop = next(item for item in evaluation.findings if item.code == "hand-join")
    assert stop.severity == "stop"
    assert f"cells {numbers[3]} and" in spoken(stop.text)
    assert "by a charger" in spoken(stop.do)
    unread = evaluate(changed(seated(roller, numbers, 7), numbers[9], volts=None), catalogue)
    warn = next(item for item in unread.findings if item.code == "hand-join-unread")
    assert str(numbers[9]) in spoken(warn.text)
    assert "hand.pack_v" not in unread.figures


def test_too_few_and_rejected_ones_that_sit_in_the_pack_are_said(
    roller: Project, catalogue: Catalogue
) -> None:
    numbers = good(evaluate(roller, catalogue))
    evaluation = evaluate(seated(roller, [58, *numbers[:83]], 7), catalogue)
    stop = next(item for item in evaluation.findings if item.code == "hand-placed-rejected")
    assert "Cell 58 sits in the pack and is rejected" in spoken(stop.text)
    wider = evaluate(with_values(roller, {"pack.parallel": 8}), catalogue)
    missing = next(item for item in wider.findings if item.code == "hand-missing")
    assert "10 are missing" in spoken(missing.text)
