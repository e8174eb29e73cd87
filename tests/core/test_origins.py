"""Every figure says where it comes from: what was said is typed, what was not is not; one key, one
figure.
"""

import random
from collections.abc import Iterable, Iterator, Mapping
from itertools import chain

import pytest

from lumvak.core import evaluate as module
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import default_value
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.figures.collected import by_key
from lumvak.core.figures.figure import Figure
from lumvak.core.spelling import spoken
from tests.edits import random_edit
from tests.length import so_many
from tests.needs import random_need

# Shown in words, or as what is usual for the kind of equipment where nothing was said.
IN_WORDS = ("leads.bundled", "charge_leads.bundled", "need.duty")
USUAL = "pack.weights."
# The count picked or found, before the needs of it are worked out.
IN_HAND = "pack.parallel_in_hand"
# Assumed where they were said to be an estimate.
GUESSED = ("need.peak_current_a", "need.stall_current_a")
EDITS = 25


def every(groups: Iterable[tuple[Figure, ...]]) -> Iterator[Figure]:
    """All figures, those that share a key too."""
    evaluation: set[int] = set()
    stack = list(chain.from_iterable(groups))
    while stack:
        figure = stack.pop()
        if id(figure) not in evaluation:
            evaluation.add(id(figure))
            yield figure
            stack.extend(figure.inputs)


def stored(project: Project, key: str) -> object:
    """What the project holds at a path; raises AttributeError where it is none."""
    found: object = project
    for step in key.split("."):
        found = found[int(step)] if isinstance(found, tuple) else getattr(found, step)
    return found


def wrong(project: Project, figures: Mapping[str, Figure]) -> list[str]:
    """Figures of the project's own fields that do not say so, or say what is not so."""
    told = []
    for key, figure in figures.items():
        try:
            held = stored(project, key)
        except AttributeError:
            if key == IN_HAND:
                held = project.pack.parallel
                if (figure.origin == "typed") != (held is not None):
                    told.append(f"{key} is {figure.origin}, picked is {held!r}")
                continue
            if figure.origin in ("typed", "default"):
                told.append(f"{key} is typed and no field")
            continue
        if any(step.isdigit() for step in key.split(".")):
            # A row of a list: there is no default for it.
            if figure.origin == "typed" and figure.value != held:
                told.append(f"{key} shows {figure.value!r}, the project holds {held!r}")
            continue
        said = held != default_value(key)
        if figure.origin in ("typed", "default"):
            if (figure.origin == "typed") != said:
                told.append(f"{key} is {figure.origin}, the project holds {held!r}")
            if key not in IN_WORDS and held != figure.value and not key.startswith(USUAL):
                told.append(f"{key} shows {figure.value!r}, the project holds {held!r}")
        elif key in GUESSED and project.need.peak_given == "estimated":
            continue
        elif said and held is not None and held == figure.value:
            told.append(f"{key} was said, and is {figure.origin}")
    return told


@pytest.fixture
def collided(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Keys that two unlike figures share, as evaluations go by."""
    found: list[str] = []

    def watched(*groups: tuple[Figure, ...]) -> Mapping[str, Figure]:
        by: dict[str, Figure] = {}
        for figure in every(groups):
            other = by.setdefault(figure.key, figure)
            if (other.value, other.origin, other.rule) != (
                figure.value,
                figure.origin,
                figure.rule,
            ):
                found.append(f"{figure.key}: {other.value!r} and {figure.value!r}")
        return by_key(*groups)

    monkeypatch.setattr(module, "by_key", watched)
    return found


@pytest.mark.parametrize("seed", range(so_many(4, 8)))
def test_origins_hold_over_random_edits(
    demos: dict[str, Project], catalogue: Catalogue, collided: list[str], seed: int
) -> None:
    draw = random.Random(seed)
    project = demos[sorted(demos)[seed % len(demos)]]
    for _ in range(EDITS):
        path, project = random_edit(project, catalogue, draw)
        evaluation = evaluate(project, catalogue)
        assert wrong(project, evaluation.figures) == [], path
        assert collided == [], path


@pytest.mark.parametrize("seed", range(0, so_many(24, 60), 3))
def test_origins_hold_for_random_needs(
    catalogue: Catalogue, collided: list[str], seed: int
) -> None:
    project = random_need(seed)
    assert wrong(project, evaluate(project, catalogue).figures) == []
    assert collided == []


def test_a_picked_conductor_and_a_recommended_one_say_so(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    picked = evaluate(demos["barrow"], catalogue).figures
    assert (picked["joints.series.part"].value, picked["joints.series.part"].origin) == (
        "nickel-0.1x5",
        "typed",
    )
    free = evaluate(random_need(1), catalogue).figures
    for name in ("part", "layers", "strips"):
        figure = free[f"joints.group.{name}"]
        assert figure.origin == "computed"
        assert figure.value is not None
        assert "recommended" in spoken(figure.rule)
    assert free["leads.bundled"].origin == "default"
