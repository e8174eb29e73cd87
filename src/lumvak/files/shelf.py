"""The projects of a folder as a list, by the glance that is kept in each when it is saved."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterable, Iterator
from datetime import date, datetime
from pathlib import Path
from typing import Any

import msgspec
from msgspec import Struct
from msgspec.structs import asdict, replace

from lumvak.core.checked import NotAccepted, made
from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.document.afterwards.record_of_pack import PackRecord
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.dates import due_days
from lumvak.core.record_of_pack.passport import passport_of
from lumvak.files.project_file import SUFFIX

# Larger than this is no project.
MOST_BYTES = 64_000_000


def with_glance(project: Project, evaluation: Evaluation) -> Project:
    """The project with what its pack is now, for whoever lists it without working it out.

    A pack beyond what a passport may say has none: what is written must be read again.
    """
    glance: tuple[Passport, ...] = ()
    with contextlib.suppress(NotAccepted):
        glance = (made(Passport, asdict(passport_of(evaluation))),)
    return replace(project, record=replace(project.record, glance=glance))


class Shelved(Struct, frozen=True):
    """A project on the shelf; ``problem`` tells of a file that cannot be read, the rest is empty.

    ``glance`` is what it was when it was saved last, ``due`` the next day on which to look at it.
    """

    path: Path
    name: str
    changed: datetime
    glance: Passport | None = None
    built: str | None = None
    entries: int = 0
    due: date | None = None
    problem: str = ""


class _Record(Struct, frozen=True):
    """What is looked at of a record; all else is left as it stands."""

    built: str | None = None
    glance: tuple[Any, ...] = ()
    log: tuple[msgspec.Raw, ...] = ()


class _Head(Struct, frozen=True):
    """What is looked at of a project file."""

    format: str
    name: str = ""
    record: _Record = _Record()


def shelf(folder: Path, today: date) -> tuple[Shelved, ...]:
    """The projects in a folder and below it, by their names; broken files come last."""
    found = list(_found(folder, today))
    return tuple(sorted(found, key=lambda it: (bool(it.problem), it.name.casefold(), it.path)))


def sorted_by(items: Iterable[Shelved], sort: str) -> list[Shelved]:
    """Items by ``name``, ``due``, ``capacity`` (most first) or ``changed`` (latest first).

    Broken ones come last; ``sort`` is one of those words.
    """
    keys: dict[str, Callable[[Shelved], object]] = {
        "name": lambda it: it.name.casefold(),
        "due": lambda it: it.due or date.max,
        "capacity": lambda it: -(it.glance.capacity_ah if it.glance else 0.0),
        "changed": lambda it: datetime.max - it.changed,
    }
    every = list(items)
    sound = [it for it in every if not it.problem]
    return sorted(sound, key=keys[sort]) + [it for it in every if it.problem]  # type: ignore[arg-type]


def _found(folder: Path, today: date) -> Iterator[Shelved]:
    for path in folder.rglob(f"*{SUFFIX}"):
        try:
            state = path.stat()
            changed = datetime.fromtimestamp(state.st_mtime)
            if state.st_size > MOST_BYTES:
                raise ValueError("it is too large for a project")
            yield _read(path, path.read_bytes(), changed, today)
        except (OSError, ValueError, msgspec.MsgspecError) as problem:
            told = " ".join(str(problem).split())[:200]
            yield Shelved(path, path.name, datetime.min, problem=told)


def _read(path: Path, held: bytes, changed: datetime, today: date) -> Shelved:
    head = msgspec.json.decode(held, type=_Head)
    if head.format != "lumvak-project":
        raise ValueError("it is no project")
    record = head.record
    glance = msgspec.convert(record.glance[0], Passport) if record.glance else None
    due = None
    if record.built is not None:
        date.fromisoformat(record.built)
        days = due_days(Project(record=PackRecord(built=record.built)), years=YEARS_AHEAD)
        due = next((it.day for it in days if it.day >= today), None)
    return Shelved(
        path,
        head.name or path.name,
        changed,
        glance,
        built=record.built,
        entries=len(record.log),
        due=due,
    )


# A pack is looked at for so long after it was built.
YEARS_AHEAD = 15
