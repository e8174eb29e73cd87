"""Random documents with values near every limit, several of them set together."""

from __future__ import annotations

import math
import random
import typing
from functools import cache
from typing import Any

from pydantic.fields import FieldInfo

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Evaluation
from tests.edits import fields_of, parts_of, value_for

MOST_SET, MOST_CELLS = 5, 400
# Beside a limit, as far as matters.
NEAR = (1e-12, 1e-9, 1e-6, 1e-3)


@cache
def _known() -> tuple[tuple[str, FieldInfo], ...]:
    return tuple(fields_of())


def _limits(info: FieldInfo) -> tuple[float, float]:
    """The least and the most that a field takes, just inside where the limit itself is out."""
    low, high = -1e6, 1e6
    for item in info.metadata:
        if (value := getattr(item, "ge", None)) is not None:
            low = float(value)
        if (value := getattr(item, "gt", None)) is not None:
            low = math.nextafter(float(value), math.inf)
        if (value := getattr(item, "le", None)) is not None:
            high = float(value)
        if (value := getattr(item, "lt", None)) is not None:
            high = math.nextafter(float(value), -math.inf)
    return low, high


def _extreme(info: FieldInfo, draw: random.Random) -> Any:
    """A number near a limit of its field; raises KeyError where it takes none."""
    kinds = typing.get_args(info.annotation) or (info.annotation,)
    if not {float, int} & set(kinds):
        raise KeyError
    low, high = _limits(info)
    value = draw.choice(
        (low, *(low + step for step in NEAR), high, 0.999 * high, 0.5 * (low + high), 1.0, 0.0)
    )
    return value if float in kinds else int(value)


def random_document(seed: int, bases: typing.Sequence[Project], catalogue: Catalogue) -> Project:
    """One of ``bases`` with up to five of its values near a limit or elsewhere."""
    draw = random.Random(seed)
    project, parts = draw.choice(bases), parts_of(catalogue)
    for _ in range(draw.randint(1, MOST_SET)):
        path, info = draw.choice(_known())
        now: Any = project
        for step in path.split("."):
            now = getattr(now, step)
        try:
            try:
                value = _extreme(info, draw)
            except KeyError:
                value = value_for(path, info, now, parts, draw)
            fresh = with_values(project, {path: value})
        except (KeyError, ProjectError):
            continue
        if (fresh.pack.series or 1) * (fresh.pack.parallel or 1) <= MOST_CELLS:
            project = fresh
    return project


def not_finite(seen: Evaluation) -> list[str]:
    """Keys of figures that are infinite or no number."""
    return [
        key
        for key, figure in seen.figures.items()
        if isinstance(figure.value, float) and not math.isfinite(figure.value)
    ]
