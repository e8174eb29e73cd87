"""Joints are proposed against the solved network, until it shows that they carry the load."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.figures.link import PathLoad
from lumvak.core.joints.asked import LEAST_MORE, asked_over, stronger
from lumvak.core.spelling import spoken
from tests.length import so_many
from tests.needs import random_need


@settings(max_examples=so_many(10, 40), deadline=None)
@given(seed=st.integers(0, 10**6))
def test_a_proposed_joint_carries_the_load_as_solved(catalogue: Catalogue, seed: int) -> None:
    evaluation = evaluate(random_need(seed), catalogue)
    codes = {item.code for item in evaluation.findings if item.severity == "stop"}
    for joint in (evaluation.laid_out.group, evaluation.laid_out.series):
        role = joint.setting.role
        assert joint.over >= 1.0
        if "still too little" not in spoken(joint.reason):
            assert f"{role}-joint-limit" not in codes


def test_even_sharing_asks_for_nothing_more(catalogue: Catalogue, barrow: Project) -> None:
    project = with_values(barrow, {"joints.series.part": None, "joints.group.part": None})
    evaluation = evaluate(project, catalogue)
    load = PathLoad(1.0, 1.0, 1.0)
    for joint in (evaluation.laid_out.group, evaluation.laid_out.series):
        assert asked_over(joint, evaluation.laid_out.network, load, "temperature") == joint.over
        # Nothing solved tells nothing.
        assert asked_over(joint, None, PathLoad(1e6, 1e6, 1.0), "temperature") == joint.over


def test_what_fails_is_asked_for_what_the_network_shows(
    catalogue: Catalogue, barrow: Project
) -> None:
    project = with_values(barrow, {"joints.series.part": None, "joints.group.part": None})
    evaluation = evaluate(project, catalogue)
    joint, network = evaluation.laid_out.group, evaluation.laid_out.network
    assert network is not None
    solved = network.limits["group"].number
    heavy = PathLoad(2.0 * solved, 2.0 * solved, 10.0)
    over = asked_over(joint, network, heavy, "temperature")
    assert over >= joint.chosen.limits_a["temperature"] / solved - 1e-9
    # Asked once more without success it grows all the same, so that an end is reached.
    again = asked_over(replace(joint, over=over), network, heavy, "temperature")
    assert again >= LEAST_MORE * over


def test_a_joint_of_the_builders_own_stays_and_is_told(
    catalogue: Catalogue, barrow: Project
) -> None:
    own = with_values(
        barrow,
        {"joints.group.part": "nickel-0.1x5", "joints.group.layers": 1, "need.current_a": 30.0},
    )
    evaluation = evaluate(own, catalogue)
    assert evaluation.laid_out.group.over == 1.0
    assert evaluation.laid_out.group.chosen.part.id == "nickel-0.1x5"
    heavy = PathLoad(1e4, 1e4, 10.0)
    assert asked_over(
        evaluation.laid_out.group, evaluation.laid_out.network, heavy, "temperature"
    ) == pytest.approx(1.0)


@pytest.mark.parametrize("current", [10.0, 20.0, 36.0, 42.0])
def test_one_long_joint_alone_gets_more_layers(catalogue: Catalogue, current: float) -> None:
    # Two columns of pouches: the joint that turns from one to the other is several times as long.
    project = with_values(
        Project(),
        {
            "pack.cell": "tallin-p-105",
            "pack.series": 10,
            "pack.parallel": 1,
            "arrangement.way": "y1b2",
            "need.current_a": current,
            "need.rated_voltage_v": 36.0,
            "joints.joining": "weld",
        },
    )
    evaluation = evaluate(project, catalogue)
    pieces, layers = (
        evaluation.laid_out.joined_pack.pieces,
        evaluation.laid_out.joined_pack.sections.layers,
    )
    long = int(pieces.length_mm.argmax())
    others = [piece for piece in range(len(pieces)) if piece != long]
    assert {int(layers[piece]) for piece in others} == {evaluation.laid_out.series.chosen.layers}
    assert layers[long] > evaluation.laid_out.series.chosen.layers
    told = next(item for item in evaluation.findings if item.code == "joint-layers")
    assert spoken(told.text).startswith(
        f"Series connection {int(pieces.level[long])} takes {int(layers[long])} layers"
    )
    assert (
        evaluation.laid_out.network is not None
        and evaluation.laid_out.network.limits["series"].number >= current
    )
    # The cut list and the template hold as many.
    cut = next(cut for cut in evaluation.cuts if long in cut.pieces)
    assert cut.layers == layers[long]


def test_what_the_builder_set_on_a_piece_stays(catalogue: Catalogue) -> None:
    layers = ((5, 4),)
    project = with_values(
        Project(),
        {
            "pack.cell": "tallin-p-105",
            "pack.series": 10,
            "pack.parallel": 1,
            "joints.changes": ({"a": "g5c1p", "b": "g6c1n", "layers": 2},),
        },
    )
    pieces = evaluate(project, catalogue).laid_out.joined_pack.pieces
    assert stronger(pieces, layers).layers.tolist() == pieces.layers.tolist()
    assert stronger(pieces, ((4, 3),)).layers[pieces.level == 4].tolist() == [3]
