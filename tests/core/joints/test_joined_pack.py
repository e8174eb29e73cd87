from functools import lru_cache
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import asdict

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, figures_of_piece
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.pieces import ADDED, GROUP, SERIES, TIE, WIRE, terminal_name
from lumvak.core.joints.variants import (
    Broken,
    as_it_is,
    hot_spots,
    nearest_lead,
    take_off_places,
    what_if,
)
from lumvak.core.spelling import spoken
from lumvak.core.steps import Steps
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.project_file import load_project
from tests.amounts import amounts
from tests.conftest import BARROW, DEMOS
from tests.length import so_many

HAND_CYCLE = DEMOS / "hand-cycle-drive.lumvak.json"


@pytest.fixture
def hand_cycle(catalogue: Catalogue) -> Project:
    return load_project(HAND_CYCLE, catalogue)


def changed(project: Project, catalogue: Catalogue, **values: object) -> Evaluation:
    return evaluate(
        with_values(project, {key.replace("__", "."): value for key, value in values.items()}),
        catalogue,
    )


def codes(evaluation: Evaluation, stage: str) -> dict[str, str]:
    return {item.code: item.severity for item in evaluation.findings if item.stage == stage}


def test_a_straight_pack_has_a_strip_along_each_level_and_across_each_joint(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    pieces = evaluate(hand_cycle, catalogue).laid_out.joined_pack.pieces
    kinds = np.bincount(pieces.kind, minlength=5)
    # 20 ends of groups with 4 pieces each; 9 joints with 5 strips.
    assert kinds[GROUP] == 80 and kinds[SERIES] == 45 and kinds[WIRE] == 0
    levels = pieces.layout.level
    assert (levels[pieces.a] == levels[pieces.b]).all()
    assert pieces.length_mm == pytest.approx(np.full(125, 22.8))


@pytest.mark.parametrize(
    ("values", "kind", "count"),
    [
        ({"joints__series": {"part": "nickel-0.15x8", "strips": 2}}, SERIES, 18),
        ({"joints__scheme": "strings-ends"}, GROUP, 8),
        ({"joints__scheme": "strings-levels"}, TIE, 72),
        ({"joints__side_a": "wire", "joints__side_b": "wire"}, WIRE, 125),
        (
            {"arrangement__rows": "nested", "arrangement__room": {}, "joints__side_a": "crossed"},
            SERIES,
            45,
        ),
    ],
)
def test_patterns_lay_what_they_say(
    hand_cycle: Project, catalogue: Catalogue, values: dict[str, object], kind: int, count: int
) -> None:
    evaluation = changed(hand_cycle, catalogue, **values)
    assert int((evaluation.laid_out.joined_pack.pieces.kind == kind).sum()) == count
    assert evaluation.laid_out.joined_pack.flow is not None
    assert (
        evaluation.laid_out.joined_pack.flow.balance < 1e-9
        and evaluation.laid_out.joined_pack.flow.power_balance < 1e-9
    )


def test_a_sheet_spreads_the_current_better_than_thin_strips(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    strips = as_it_is(evaluate(hand_cycle, catalogue).laid_out.joined_pack)
    sheet = as_it_is(
        changed(
            hand_cycle, catalogue, joints__side_a="sheet", joints__side_b="sheet"
        ).laid_out.joined_pack
    )
    tabs = as_it_is(
        changed(
            hand_cycle, catalogue, joints__side_a="tabs", joints__side_b="tabs"
        ).laid_out.joined_pack
    )
    assert strips is not None and sheet is not None and tabs is not None
    assert sheet.excess < strips.excess and sheet.joint_ohm < strips.joint_ohm
    assert sheet.joint_ohm < tabs.joint_ohm


def test_evenly_shared_currents_are_those_of_the_estimate(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    evaluation = changed(hand_cycle, catalogue, joints__take_off="spread", joints__lead_points=())
    figures = evaluation.figures
    assert figures["network.cell_excess"].number == pytest.approx(0.0, abs=1e-6)
    assert figures["network.series_limit_a"].number == pytest.approx(
        evaluation.laid_out.series.figures.limit.number, rel=1e-6
    )
    # Five strips in parallel at each joint, and both joints on every cell.
    joints = 9 * evaluation.laid_out.series.chosen.ohm
    welds = 2 * 0.05e-3 * 10 / 5
    assert figures["network.joint_ohm"].number == pytest.approx(joints + welds, rel=1e-6)
    link = next(item for item in evaluation.path.links if item.key == "cells")
    assert link.continuous_a == pytest.approx(evaluation.sized.pack.cells_limit.number)


def test_a_corner_take_off_overloads_near_cells_and_moving_it_helps(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    corner = evaluate(hand_cycle, catalogue)
    assert codes(corner, "joints")["cells-uneven"] == "warn"
    assert codes(corner, "joints")["group-joint-limit"] == "stop"
    places = take_off_places(corner.laid_out.joined_pack)
    best = next(item.variant for item in places if item.proposed)
    drawn = as_it_is(corner.laid_out.joined_pack)
    assert drawn is not None
    assert drawn.excess == pytest.approx(places[0].variant.excess)
    assert best.excess < 0.3 * drawn.excess and best.limit_a > corner.sized.pack.current.number
    middle = changed(hand_cycle, catalogue, joints__take_off="middle")
    assert "group-joint-limit" not in codes(middle, "joints")
    assert codes(middle, "joints").get("cells-uneven") != "warn"


def test_the_network_feeds_chain_and_run(hand_cycle: Project, catalogue: Catalogue) -> None:
    corner = evaluate(hand_cycle, catalogue)
    spread = changed(hand_cycle, catalogue, joints__take_off="spread")
    assert corner.figures["network.joint_ohm"].number > spread.figures["network.joint_ohm"].number
    assert corner.run.run.path_loss_wh > spread.run.run.path_loss_wh
    keys = {figure.key for figure in corner.figures["run.time_h"].inputs}
    assert "network.joint_ohm" in keys and "path.joint_ohm" not in keys
    weak = corner.path.weakest
    assert weak is not None and weak.limit.key == "network.group_limit_a"
    shared = changed(
        hand_cycle,
        catalogue,
        joints__lead_points=tuple({"pole": pole, "cell": cell} for pole in "+-" for cell in (1, 5)),
    )
    leads = next(item for item in shared.path.links if item.key == "leads")
    assert leads.continuous_a == pytest.approx(2.0 * shared.sized.wire.limit.number)
    # A bar over every cell has one lead, however many places it collects from.
    barred = next(item for item in spread.path.links if item.key == "leads")
    assert barred.continuous_a == pytest.approx(spread.sized.wire.limit.number)
    assert spread.laid_out.joined_pack.solved is not None
    assert spread.laid_out.joined_pack.solved.leads_ohm == pytest.approx(
        spread.sized.wire.ohm.number
    )


@pytest.mark.parametrize(
    ("values", "code"),
    [
        ({"joints__changes": ({"a": "g1c1p", "b": "g1c1n"},)}, "joint-shorts"),
        ({"joints__changes": ({"a": "g1c5p", "b": "g4c1n"},)}, "joint-shorts"),
        ({"joints__changes": ({"a": "g1c4n", "b": "g1c5n", "layers": 0},)}, "cell-unconnected"),
        (
            {"joints__lead_points": ({"pole": "-", "cell": 1, "toward": 3, "share": 0.5},)},
            "lead-off-strip",
        ),
        ({"joints__lead_points": ({"pole": "+", "cell": 9},)}, "lead-nowhere"),
    ],
)
def test_bad_joints_are_named_at_their_place(
    hand_cycle: Project, catalogue: Catalogue, values: dict[str, object], code: str
) -> None:
    evaluation = changed(hand_cycle, catalogue, **values)
    flaw = next(item for item in evaluation.laid_out.joined_pack.flaws if item.code == code)
    length, width, _ = evaluation.laid_out.joined_pack.layout.size_mm
    assert -1.0 <= flaw.x_mm <= length + 10.0 and -1.0 <= flaw.y_mm <= width + 10.0
    assert codes(evaluation, "joints")[code] == "stop"
    solved = code == "cell-unconnected"
    assert (evaluation.laid_out.joined_pack.solved is not None) == solved
    assert ("not-solved" in codes(evaluation, "joints")) != solved
    assert evaluation.path.links and evaluation.run.run.hours > 0.0


def test_a_turned_cell_lies_under_the_strip_with_its_other_end(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    layout = evaluate(hand_cycle, catalogue).laid_out.joined_pack.layout
    spots = [asdict(item) for item in layout.spots()]
    spots[7]["turned"] = not spots[7]["turned"]
    evaluation = changed(hand_cycle, catalogue, arrangement__spots=tuple(spots))
    named = [
        item.text for item in evaluation.laid_out.joined_pack.flaws if item.code == "joint-shorts"
    ]
    assert named and all("g2c3" in spoken(text) for text in named)
    assert evaluation.laid_out.joined_pack.solved is None


def test_a_cut_through_the_pack_is_open(hand_cycle: Project, catalogue: Catalogue) -> None:
    cut = tuple({"a": f"g3c{k}p", "b": f"g4c{k}n", "layers": 0} for k in range(1, 6))
    evaluation = changed(hand_cycle, catalogue, joints__changes=cut)
    assert "pack-open" in codes(evaluation, "joints")


def test_pieces_can_be_doubled_left_out_and_added(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    joined_pack = evaluate(hand_cycle, catalogue).laid_out.joined_pack
    one, two = (
        terminal_name(joined_pack.layout, int(end[0]))
        for end in (joined_pack.pieces.a, joined_pack.pieces.b)
    )
    double = changed(hand_cycle, catalogue, joints__changes=({"a": one, "b": two, "layers": 2},))
    assert double.laid_out.joined_pack.sections.ohm[0] == pytest.approx(
        joined_pack.sections.ohm[0] / 2.0
    )
    added = changed(hand_cycle, catalogue, joints__changes=({"a": "g1c1n", "b": "g1c3n"},))
    assert (added.laid_out.joined_pack.pieces.kind == ADDED).sum() == 1
    assert added.laid_out.joined_pack.solved is not None
    gone = changed(hand_cycle, catalogue, joints__changes=({"a": "g90c1n", "b": "g1c3n"},))
    assert len(gone.laid_out.joined_pack.pieces) == len(joined_pack.pieces)


def test_measured_cells_take_the_place_of_the_sheet(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    weak = ({"cell": "g5c2", "mohm": 120.0, "volts": 3.7}, {"cell": "g77c1", "mohm": 40.0})
    evaluation = changed(hand_cycle, catalogue, measured=weak)
    flow, plain = evaluation.laid_out.joined_pack.flow, evaluate(hand_cycle, catalogue)
    assert flow is not None and plain.laid_out.joined_pack.flow is not None
    assert flow.cell_a[21] < 0.5 * plain.laid_out.joined_pack.flow.cell_a[21]
    assert (
        evaluation.figures["network.cells_ohm"].number > plain.figures["network.cells_ohm"].number
    )
    assert "measured-nowhere" in codes(evaluation, "joints")


def test_what_breaks_loads_the_others(hand_cycle: Project, catalogue: Catalogue) -> None:
    evaluation = changed(hand_cycle, catalogue, joints__take_off="middle")
    drawn = as_it_is(evaluation.laid_out.joined_pack)
    cell = what_if(evaluation.laid_out.joined_pack, Broken(cells=frozenset({22})))
    assert drawn is not None and cell is not None
    assert cell.flow.cell_a[22] == 0.0
    assert cell.flow.cell_a[20:25].sum() == pytest.approx(evaluation.sized.pack.current.number)
    assert cell.busiest_cell_a > drawn.busiest_cell_a and cell.joint_ohm > drawn.joint_ohm
    series = int(np.flatnonzero(evaluation.laid_out.joined_pack.pieces.kind == SERIES)[0])
    strip = what_if(evaluation.laid_out.joined_pack, Broken(pieces=frozenset({series})))
    assert strip is not None and strip.flow.piece_a[series] == 0.0
    assert strip.hottest_k > drawn.hottest_k
    assert what_if(evaluation.laid_out.joined_pack, Broken(cells=frozenset(range(10, 15)))) is None


def test_hot_spots_are_ranked_and_explain_themselves(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(hand_cycle, catalogue)
    carried = evaluation.laid_out.joined_pack.carried
    assert carried is not None
    spots = hot_spots(evaluation.laid_out.joined_pack)
    assert (np.diff(carried.pack_limit_a[spots]) >= 0.0).all()
    assert spots[0] == evaluation.laid_out.joined_pack.busiest("group")
    figures = {figure.key: figure for figure in figures_of_piece(evaluation, spots[0])}
    assert figures["piece.limit_a"].number == evaluation.figures["network.group_limit_a"].number
    amps, ohm = figures["piece.current_a"].number, figures["piece.resistance_ohm"].number
    assert figures["piece.loss_w"].number == pytest.approx(amps**2 * ohm)


@settings(max_examples=so_many(8, 25))
@given(st.floats(-50.0, 300.0), st.floats(-50.0, 200.0))
def test_a_dragged_lead_lands_on_a_strip_of_its_group(x: float, y: float) -> None:
    joined_pack = _hand_cycle_table()
    lead = nearest_lead(joined_pack, "+", x, y)
    assert lead.terminal // 2 >= 45 and lead.terminal % 2 == 0
    if lead.toward is not None:
        assert abs(lead.toward - lead.terminal) == 2 and 0.2 < lead.share < 0.8


@lru_cache
def _sample(path: Path) -> tuple[Project, Catalogue]:
    """A demo and the catalogue, for tests that cannot take fixtures of a function's scope."""
    catalogue, _ = load_catalogue()
    return load_project(path, catalogue), catalogue


@lru_cache
def _hand_cycle_table() -> JoinedPack:
    return evaluate(*_sample(HAND_CYCLE)).laid_out.joined_pack


EDITS = (
    {"joints.take_off": "middle"},
    {"joints.contact_mohm": 0.2},
    {"joints.series.layers": 2},
    {"joints.gap_mm": 2.5},
    {"need.current_a": 12.0},
    {"leads.length_m": 1.0},
    {"arrangement.rows": "nested"},
    {"run.start_charge": 0.8},
    {"pack.parallel": 6},
    {"joints.school": "rule"},
)


def test_going_on_from_the_last_evaluation_changes_nothing(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    steps = Steps()
    evaluate(hand_cycle, catalogue, steps=steps)
    project = hand_cycle
    for edit in EDITS:
        project = with_values(project, edit)
        before = evaluate(project, catalogue, steps=steps)
        fresh = evaluate(project, catalogue)
        assert before.figures == fresh.figures, edit
        assert before.findings == fresh.findings, edit
        assert [link.continuous_a for link in before.path.links] == [
            link.continuous_a for link in fresh.path.links
        ]


@pytest.mark.parametrize("path", sorted(DEMOS.glob("*.lumvak.json")), ids=lambda path: path.stem)
def test_every_demo_lies_in_its_room_and_is_solved(path: Path, catalogue: Catalogue) -> None:
    evaluation = evaluate(load_project(path, catalogue), catalogue)
    assert evaluation.project.arrangement.room.kind != "none"
    assert (
        evaluation.laid_out.joined_pack.placing.fits and not evaluation.laid_out.joined_pack.flaws
    )
    assert (
        evaluation.laid_out.joined_pack.flow is not None
        and evaluation.laid_out.joined_pack.flow.power_balance < 1e-9
    )
    answers = {"cells-uneven", "group-joint-limit", "series-joint-limit"}
    assert set(codes(evaluation, "arrangement").values()) <= {"note"}
    assert (
        codes(evaluation, "joints").keys() & answers
        or evaluation.figures["network.cell_excess"].number < 0.1
    )


def test_caps_and_links_are_links_of_the_chain(hand_cycle: Project, catalogue: Catalogue) -> None:
    evaluation = changed(hand_cycle, catalogue, joints__joining="cap", joints__link_a=6.0)
    limits = {link.key: link.continuous_a for link in evaluation.path.links}
    excess = 1.0 + evaluation.figures["network.cell_excess"].number
    assert limits["contact"] == pytest.approx(10.0 * 5 / excess)
    assert limits["link"] == pytest.approx(6.0 * 5 / excess)
    assert evaluation.figures["joints.contact_limit_a"].assumed
    assert {"links-limit", "live-terminals"} <= codes(evaluation, "joints").keys()
    soldered = changed(
        hand_cycle, catalogue, joints__joining="solder", joints__scheme="strings-ends"
    )
    assert {"solder-heat", "strings"} <= codes(soldered, "joints").keys()


def test_flat_cells_stand_face_to_face_so_that_posts_lie_opposite(
    hand_cycle: Project, catalogue: Catalogue
) -> None:
    loose = {
        "arrangement__room": {},
        "arrangement__kept_free": (),
        "joints__group": {},
        "joints__series": {},
    }
    evaluation = changed(hand_cycle, catalogue, **loose, pack__cell="kimbry-p-50", pack__parallel=3)
    kinds = np.bincount(evaluation.laid_out.joined_pack.pieces.kind, minlength=5)
    # One stack: between two groups their outer cells stand face to face, and one bar joins all.
    assert kinds[SERIES] == 9 and kinds[WIRE] == 0
    bars = [cut for cut in evaluation.cuts if len(cut.joins) == 6]
    assert len(bars) == 9 and not evaluation.laid_out.clearance.flaws
    assert (
        not evaluation.laid_out.joined_pack.flaws
        and evaluation.laid_out.joined_pack.flow is not None
    )
    length, width, _ = evaluation.laid_out.joined_pack.layout.size_mm
    cell = evaluation.sized.choice.cell
    assert length == pytest.approx(cell.footprint_mm[0])
    # Each pouch has room to grow by eight in a hundred.
    assert width == pytest.approx(30 * 1.08 * cell.footprint_mm[1] + 29 * 1.5)


def test_arrangement_findings(barrow: Project, catalogue: Catalogue) -> None:
    loose = {"arrangement__room": {}, "arrangement__kept_free": ()}
    folded = changed(barrow, catalogue, **loose, arrangement__way="x7b2")
    assert codes(folded, "arrangement")["barriers"] == "note"
    small = changed(barrow, catalogue, arrangement__room__length_mm=200.0)
    assert codes(small, "arrangement")["does-not-fit"] == "stop"
    gone = changed(barrow, catalogue, arrangement__way="x99", joints__gap_mm=0.0)
    assert {"way-gone", "no-gap"} <= codes(gone, "arrangement").keys()


@st.composite
def edits(draw: st.DrawFn) -> dict[str, object]:
    """Rooms, patterns and changes of all kinds, also such as make no sense."""
    side = st.sampled_from([5.0, 60.0, 150.0, 300.0, 500.0])
    spot = st.builds("g{}c{}{}".format, st.integers(1, 4), st.integers(1, 4), st.sampled_from("pn"))
    corner = st.tuples(st.floats(-50.0, 400.0), st.floats(-50.0, 400.0))
    pattern = st.sampled_from(["strips", "crossed", "sheet", "tabs", "wire"])
    changes = st.fixed_dictionaries({"a": spot, "b": spot, "layers": st.integers(0, 2)})
    leads = st.fixed_dictionaries(
        {
            "pole": st.sampled_from("+-"),
            "cell": st.integers(1, 4),
            "share": amounts(1.0),
            "toward": st.sampled_from([None, 1, 2]),
        }
    )
    outline = draw(st.lists(corner, min_size=3, max_size=7) | st.just([]))
    return {
        "pack.series": draw(st.integers(1, 8)),
        "pack.parallel": draw(st.integers(1, 5)),
        "pack.cell": draw(st.sampled_from(["ostrel-21-48", "fennimor-b-105", "kimbry-p-50"])),
        "arrangement.room.kind": draw(st.sampled_from(["none", "box", "outline", "round"])),
        "arrangement.room.length_mm": draw(side),
        "arrangement.room.width_mm": draw(side),
        "arrangement.room.diameter_mm": draw(side),
        "arrangement.room.height_mm": draw(st.sampled_from([None, 60.0, 160.0])),
        "arrangement.room.outline": tuple(outline),
        "arrangement.rows": draw(st.sampled_from(["straight", "nested"])),
        "arrangement.axis": draw(st.sampled_from(["up", "along", "across"])),
        "arrangement.wall_mm": draw(st.sampled_from([0.0, 2.0, 90.0])),
        "joints.scheme": draw(st.sampled_from(["groups", "strings-ends", "strings-levels"])),
        "joints.side_a": draw(pattern),
        "joints.side_b": draw(pattern),
        "joints.take_off": draw(st.sampled_from(["end", "middle", "spread"])),
        "joints.changes": tuple(draw(st.lists(changes, max_size=2))),
        "joints.lead_points": tuple(draw(st.lists(leads, max_size=2))),
    }


@settings(max_examples=so_many(15, 60))
@given(edits())
def test_whatever_is_asked_for_is_solved_or_named(values: dict[str, object]) -> None:
    project, catalogue = _sample(BARROW)
    evaluation = evaluate(with_values(project, values), catalogue)
    joined_pack, findings = (
        evaluation.laid_out.joined_pack,
        {item.code for item in evaluation.findings},
    )
    assert (
        len(joined_pack.layout) == evaluation.sized.choice.series * evaluation.sized.choice.parallel
    )
    assert joined_pack.placing.fits or findings & {
        "does-not-fit",
        *(item.code for item in joined_pack.flaws),
    }
    if joined_pack.flow is None:
        assert {"not-solved"} <= findings and joined_pack.flaws
        return
    assert joined_pack.flow.balance < 1e-9 and joined_pack.flow.power_balance < 1e-9
    group = joined_pack.flow.cell_a.reshape(
        evaluation.sized.choice.series, evaluation.sized.choice.parallel
    )
    if not any(item.code == "cell-unconnected" for item in joined_pack.flaws):
        assert group.sum(axis=1) == pytest.approx(evaluation.sized.pack.current.number, rel=1e-6)
