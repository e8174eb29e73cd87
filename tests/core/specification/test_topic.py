"""The whole specification: every part once, quick, and never narrower for asking less."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.topic import specification_in_hand
from lumvak.core.specification.window import PART_KEYS
from tests.length import so_many
from tests.needs import builders_need
from tests.specified import KINDS, against, in_force, missed, pinned


def test_every_part_is_there_once_and_every_figure_unfolds(evaluation: Evaluation) -> None:
    specification = specification_in_hand(evaluation)
    assert [part.key for part in specification.parts] == list(PART_KEYS)
    keys = [
        figure.key
        for part in specification.parts
        for window in part.windows
        for figure in window.figures
    ]
    assert len(keys) == len(set(keys)) > 60
    for part in specification.parts:
        for window in part.windows:
            assert window.label and window.reason
            if not window.open and window.must:
                assert window.set_by
    with pytest.raises(KeyError):
        specification.of("wheel")


@settings(max_examples=so_many(6, 60), deadline=None)
@given(seed=st.integers(0, 400))
def test_what_is_recommended_lies_in_its_windows(catalogue: Catalogue, seed: int) -> None:
    evaluation = evaluate(builders_need(seed), catalogue)
    for kind in KINDS:
        part = in_force(evaluation, kind)
        if part is not None:
            assert (missed(kind, part, evaluation) == ()) == (against(evaluation, kind) == ())


@settings(max_examples=so_many(6, 60), deadline=None)
@given(seed=st.integers(0, 400), less=st.floats(0.5, 0.95))
def test_less_current_never_narrows_a_window(catalogue: Catalogue, seed: int, less: float) -> None:
    project = builders_need(seed)
    project = pinned(project, evaluate(project, catalogue))
    need = project.need
    if need.load_basis != "current" or need.peak_current_a is None:
        return
    eased = with_values(
        project,
        {
            "need.current_a": less * need.current_a,
            "need.peak_current_a": less * need.peak_current_a,
        },
    )
    wide, narrow = (
        {
            (part.key, window.name, window.case): window.bounds
            for part in specification_in_hand(evaluate(item, catalogue)).parts
            for window in part.windows
            if window.must and window.at_s is None and part.key in ("bms", "connector", "switch")
        }
        for item in (eased, project)
    )
    for key, (low, high) in narrow.items():
        if key in wide:
            assert wide[key][0] <= low * (1.0 + 1e-9) and wide[key][1] >= high * (1.0 - 1e-9), key


def test_with_no_parts_at_hand_the_design_goes_on(
    catalogue: Catalogue, demos: dict[str, Project]
) -> None:
    from msgspec.structs import replace

    bare = Catalogue(
        [replace(catalogue.all_parts, boards=(), fuses=(), connectors=(), switches=())]
    )
    for project in demos.values():
        free = with_values(
            project,
            {
                "protection.board": None,
                "power.fuse": None,
                "power.fuse_band": (),
                "power.connector": None,
                "power.charge_fuse": None,
            },
        )
        free = replace(free, parts=replace(free.parts, boards=(), fuses=(), connectors=()))
        evaluation = evaluate(free, bare)
        codes = {item.code for item in evaluation.findings}
        assert {"bms-as-specified", "fuse-as-specified", "connector-as-specified"} <= codes
        for kind in ("bms", "fuse", "charge-fuse", "connector"):
            assert not against(evaluation, kind), kind
            assert missed(kind, in_force(evaluation, kind), evaluation) == ()
        assert evaluation.path.weakest is not None and evaluation.cuts
        # What it counts with is marked as assumed.
        assert evaluation.figures["board.continuous_a"].assumed
        assert evaluation.figures["power.fuse_a"].assumed
