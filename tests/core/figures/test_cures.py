"""Every finding leads to a field that changes it."""

import random
from collections.abc import Iterator
from functools import lru_cache
from typing import Any

import pytest
from msgspec import Struct
from msgspec.structs import asdict, replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError, field_of, value_at, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.cures import CURES, LINKS, cure_of
from lumvak.core.figures.finding import Finding
from lumvak.core.spelling import spoken
from lumvak.core.steps import Steps
from tests.conftest import DEMOS
from tests.edits import fields_of, parts_of, random_edit, value_for
from tests.length import so_many

# So many values are tried before a field is said to change nothing.
TRIES = 24
PLAIN = dict(fields_of())


def other_items(now: tuple[Any, ...]) -> Iterator[tuple[Any, ...]]:
    """Fewer of several, or another number in one of them."""
    yield from ((), now[1:], now[:1])
    for place, item in enumerate(now):
        for name, value in asdict(item).items() if isinstance(item, Struct) else ():
            if value is None or isinstance(value, float):
                for fresh in (5.0, 12.0) if value is None else (2.0 * value, 0.5 * value):
                    yield (*now[:place], replace(item, **{name: fresh}), *now[place + 1 :])


def others(project: Project, path: str, catalogue: Catalogue, taken: float | None) -> Iterator[Any]:
    """Other values of a field: near and far, each part, fewer or none of several.

    ``taken`` is what is taken where nothing is said.
    """
    now = value_at(project, path)
    if isinstance(now, tuple):
        yield from other_items(now)
        return
    field, draw, parts = PLAIN[path], random.Random(path), parts_of(catalogue)
    if path == "charging.charger":
        yield from ("given", "right", *(item.id for item in project.charging.chargers))
    near = taken if now is None else now
    if field.accepts.plain in (int, float) and not field.accepts.values and near is not None:
        for factor in (1.05, 0.95, 0.5, 2.0, 0.25, 4.0, 0.1, 10.0):
            yield (max(round(near * factor), 1) if field.accepts.plain is int else near * factor)
    if path in parts:
        yield from draw.sample(parts[path], min(len(parts[path]), TRIES))
    if field.accepts.optional:
        yield None
    for _ in range(TRIES):
        yield value_for(path, field, now, parts, draw)


def said(evaluation: Evaluation, code: str) -> list[tuple[str, ...]]:
    """What is said under a code."""
    return [
        (item.severity, item.figure, *map(spoken, (item.text, item.why, item.do)))
        for item in evaluation.findings
        if item.code == code
    ]


def changed_by(project: Project, finding: Finding, path: str, catalogue: Catalogue) -> bool:
    """Whether another value of a field changes what is found."""
    steps = Steps()
    evaluation = evaluate(project, catalogue, steps=steps)
    before = said(evaluation, finding.code)
    figure = evaluation.figures.get(path)
    for value in others(project, path, catalogue, None if figure is None else figure.value):
        try:
            fresh = with_values(project, {path: value})
        except ProjectError:
            continue
        if said(evaluate(fresh, catalogue, steps=steps), finding.code) != before:
            return True
    return False


def test_every_path_is_one_of_the_document() -> None:
    for code, path in (*CURES, *LINKS.items()):
        assert path in ("", "*") or field_of(path) is not None, code


def uncured(project: Project, catalogue: Catalogue, known: set[tuple[str, str]]) -> list[str]:
    """Codes of findings that lead nowhere, or to what changes nothing; each is tried once."""
    wrong = []
    for finding in evaluate(project, catalogue).findings:
        path = cure_of(finding)
        if path is None or (not path and finding.severity != "note"):
            wrong.append(f"{finding.code} leads nowhere")
        elif path and (finding.code, path) not in known:
            if changed_by(project, finding, path, catalogue):
                known.add((finding.code, path))
            else:
                wrong.append(f"{finding.code}: {path} changes nothing of “{spoken(finding.text)}”")
    return wrong


@lru_cache(maxsize=1)
def tried() -> set[tuple[str, str]]:
    """What was found to be changed so far."""
    return set()


def test_findings_of_the_demos_lead_to_what_changes_them(catalogue: Catalogue) -> None:
    from lumvak.files.project_file import load_project

    wrong = [
        f"{path.stem}: {text}"
        for path in sorted(DEMOS.glob("*.json"))
        for text in uncured(load_project(path, catalogue), catalogue, tried())
    ]
    assert not wrong, "\n".join(wrong)


@pytest.mark.parametrize("seed", range(so_many(20, 200)))
def test_findings_of_random_projects_lead_to_what_changes_them(
    seed: int, catalogue: Catalogue, demos: dict[str, Project], plain: Project
) -> None:
    draw = random.Random(seed)
    project = draw.choice([*demos.values(), plain])
    for _ in range(draw.randint(2, 8)):
        _, project = random_edit(project, catalogue, draw)
    assert not uncured(project, catalogue, tried())
