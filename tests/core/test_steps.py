"""Steps run only where their inputs changed, and what they give is what a fresh run gives."""

import random
from collections.abc import Callable, Iterator, Mapping
from typing import Any

import numpy as np
import pytest
from msgspec import Struct

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.fields import fields_of
from lumvak.core.figures.figure import Figure
from lumvak.core.power.place import Place
from lumvak.core.record import Document
from lumvak.core.steps import Steps
from tests.edits import random_edit
from tests.length import so_many

EDITS_A_DEMO = so_many(25, 125)


def differences(one: Any, two: Any, way: str = "") -> Iterator[str]:  # noqa: PLR0912
    """Where two results differ, field by field."""
    if one is two:
        return
    if type(one) is not type(two):
        yield f"{way}: {one!r} is not {two!r}"
    elif isinstance(one, Place):
        for name in ("parts", "chosen", "automatic"):
            yield from differences(getattr(one, name), getattr(two, name), f"{way}.{name}")
    elif isinstance(one, np.ndarray):
        if not np.array_equal(one, two, equal_nan=one.dtype.kind == "f"):
            yield f"{way}: arrays differ"
    elif isinstance(one, Mapping):
        if list(one) != list(two):
            yield f"{way}: keys differ"
        else:
            for key in one:
                yield from differences(one[key], two[key], f"{way}[{key}]")
    elif isinstance(one, tuple | list):
        if len(one) != len(two):
            yield f"{way}: {len(one)} is not {len(two)}"
        else:
            for place, pair in enumerate(zip(one, two, strict=True)):
                yield from differences(*pair, f"{way}[{place}]")
    elif isinstance(one, Figure | Document) or not isinstance(one, Struct):
        if one != two and not (one != one and two != two):  # noqa: PLR0124
            yield f"{way}: {one!r} is not {two!r}"
    else:
        for name in one.__struct_fields__:
            if name not in ("task", "catalogue"):
                yield from differences(getattr(one, name), getattr(two, name), f"{way}.{name}")


@pytest.mark.parametrize("demo", ["barrow", "trimmer", "kayak", "cycle"])
def test_what_is_reused_is_what_a_fresh_evaluation_gives(
    demo: str, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    draw, steps = random.Random(demo), Steps()
    project = start = demos[demo]
    evaluate(project, catalogue, steps=steps)
    for place in range(EDITS_A_DEMO):
        if place % 25 == 0:
            project = start
        path, project = random_edit(project, catalogue, draw)
        reused = evaluate(project, catalogue, steps=steps)
        fresh = evaluate(project, catalogue)
        found = list(differences(reused, fresh))
        assert not found, f"{place}, {path}: {found[:3]}"


# What an edit of one field may make run anew; sizing, joints or the power path named by one step.
SIZING, SOLVING, RUNNING, JUDGING = "search", "wired", "run_of", "main_fuse"
KINDS: tuple[tuple[str, Any, set[str], set[str]], ...] = (
    ("note", "spare pack", set(), {SIZING, SOLVING, RUNNING, JUDGING, "by_key", "worst_first"}),
    ("name", "spare", set(), {SIZING, SOLVING, RUNNING, JUDGING, "by_key", "worst_first"}),
    ("run.start_charge", 0.8, {RUNNING}, {SIZING, SOLVING, JUDGING}),
    ("joints.group.layers", 3, {SOLVING, RUNNING}, {SIZING, "pack_figures", "series limited_by"}),
    ("joints.take_off", "end", {SOLVING}, {SIZING, "pack_figures", "laid"}),
    ("arrangement.barrier_v", 5.0, {"barriers_of"}, {SIZING, SOLVING, RUNNING, JUDGING}),
    ("need.runtime_h", 0.6, {SIZING, "pack_figures"}, {SOLVING, JUDGING, "board_choice"}),
    ("need.current_a", 21.0, {SIZING, RUNNING, JUDGING}, {SOLVING, "laid", "placed"}),
    ("need.ambient_c", 30.0, {SIZING, RUNNING, JUDGING}, {"laid", "placed", "cell_table"}),
    ("power.connector", "none", {"contacts", SIZING}, {SOLVING, "board_choice", "laid"}),
    ("rest.days", 20.0, {"shelf_of"}, {SIZING, SOLVING, RUNNING, JUDGING}),
    ("balance_leads.fuse_a", 1.0, {"tap_figures"}, {SIZING, SOLVING, RUNNING, JUDGING}),
    ("making.overhang_mm", 8.0, {"metals_of", "clearance_topic"},
     {SIZING, SOLVING, RUNNING, JUDGING, "by_key"}),
)  # fmt: skip


@pytest.mark.parametrize(("path", "value", "ran", "rested"), KINDS, ids=[kind[0] for kind in KINDS])
def test_an_edit_runs_the_steps_that_hang_on_it(
    path: str, value: object, ran: set[str], rested: set[str], barrow: Project, catalogue: Catalogue
) -> None:
    steps = Steps()
    evaluate(barrow, catalogue, steps=steps)
    assert {SIZING, SOLVING, RUNNING, JUDGING} <= set(steps.ran)
    evaluate(with_values(barrow, {path: value}), catalogue, steps=steps)
    assert ran <= set(steps.ran)
    assert not rested & set(steps.ran)
    if not ran:
        assert not steps.ran


def test_untouched_sections_stay_the_same_objects(barrow: Project) -> None:
    edited = with_values(barrow, {"joints.group.layers": 3, "note": "x"})
    for name in fields_of(type(barrow)):
        same = getattr(edited, name) is getattr(barrow, name)
        assert same == (name not in ("joints", "note")), name
    assert edited.joints.series is barrow.joints.series
    assert edited.joints.group.layers == 3


def test_a_step_whose_inputs_are_the_same_rests() -> None:
    asked = []

    def doubled(value: tuple[int, ...]) -> tuple[int, ...]:
        asked.append(value)
        return value * 2

    steps, one, two = Steps(), (1,), (1,)
    first = steps.of(doubled, one)
    assert steps.of(doubled, one) is first
    steps.of(doubled, (*two,))
    assert len(asked) == 2
    # In a place of its own it keeps what it made there.
    assert steps.at("there").of(doubled, one) == first
    assert steps.at("there").of(doubled, one) is not first
    assert len(asked) == 3


def test_a_step_that_fails_leaves_what_was_there() -> None:
    def picky(value: int) -> int:
        if value < 0:
            raise ValueError(value)
        return value

    steps = Steps()
    steps.of(picky, 1)
    with pytest.raises(ValueError, match="-1"):
        steps.of(picky, -1)
    steps.ran.clear()
    assert steps.of(picky, 1) == 1
    assert not steps.ran


def test_what_is_given_by_name_counts_and_functions_of_one_name_are_two_steps() -> None:
    def first() -> Callable[..., int]:
        def made(value: int, times: int = 1) -> int:
            return value * times

        return made

    steps, one, other = Steps(), first(), first()
    assert steps.of(one, 2) == 2
    assert steps.of(one, 2, times=3) == 6
    assert steps.of(one, 2, times=3) == 6
    assert steps.ran == ["made", "made"]
    # Another function, though it bears the same name.
    assert steps.of(other, 2, times=3) == 6
    assert steps.ran == ["made", "made", "made"]


def test_a_step_that_goes_on_from_its_last_result_makes_what_a_fresh_one_does() -> None:
    asked: list[int] = []

    def squares(upto: tuple[int, ...], before: list[int] | None = None) -> list[int]:
        known = before or []
        asked.extend(upto[len(known) :])
        return [*known, *(value * value for value in upto[len(known) :])]

    steps = Steps()
    assert steps.going_on(squares, (1, 2)) == [1, 4]
    assert steps.going_on(squares, (1, 2, 3)) == squares((1, 2, 3))
    assert asked[:3] == [1, 2, 3]
