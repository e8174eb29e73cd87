"""Entries that were typed and not taken: they wait in their fields until something else fits."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.ui.speech import in_words, spoken, worded


class RefusedEntry(Struct, frozen=True):
    """What was typed into the field of ``path``, and why it was not taken.

    ``value`` is what was read of it, where it could be read at all (``readable``); ``label`` is the
    field's word and ``stage`` the key of where it stands.
    """

    path: str
    label: str
    stage: str
    text: str
    why: str
    value: Any = None
    readable: bool = False


class RefusedEntries:
    """The entries of a window that wait, by the path of their fields."""

    def __init__(self) -> None:
        self._kept: dict[str, RefusedEntry] = {}

    @property
    def all(self) -> tuple[RefusedEntry, ...]:
        """All that waits, in the order in which it was typed."""
        return tuple(self._kept.values())

    def of(self, path: str) -> RefusedEntry | None:
        """What waits in a field; ``None`` where nothing does."""
        return self._kept.get(path)

    def keep(self, entry: RefusedEntry) -> None:
        """Have an entry wait in its field, in place of an earlier one."""
        self._kept[entry.path] = entry

    def drop(self, *paths: str) -> None:
        """Nothing waits in these fields any more."""
        for path in paths:
            self._kept.pop(path, None)

    def clear(self) -> None:
        """Nothing waits anywhere."""
        self._kept.clear()

    def by_stage(self) -> dict[str, str]:
        """What is said of each stage on which something waits, by its key."""
        found: dict[str, str] = {}
        for entry in self.all:
            others = entry.stage in found
            found[entry.stage] = (
                "several not taken" if others else worded("“{}” not taken", entry.text)
            )
        return found

    @property
    def words(self) -> str:
        """What waits, in a sentence; an empty text where nothing does."""
        each = ", ".join(f"{entry.label} “{entry.text}”" for entry in self.all)
        return worded("Typed and not taken: {}.", each) if each else ""

    def renew(self, project: Project) -> None:
        """Say of all that waits why it is not taken by ``project``."""
        for entry in self.all:
            if entry.readable:
                self._kept[entry.path] = replace(entry, why=_why(project, entry))

    def fitting(self, project: Project, changes: Mapping[str, Any]) -> dict[str, Any]:
        """``changes``, and with them all that waits and can be taken now.

        What fits alone goes first, then what fits only together. Raises ProjectError where
        ``changes`` do not fit, not even with all that waits.
        """
        waiting = {
            entry.path: entry.value
            for entry in self.all
            if entry.readable and entry.path not in changes
        }
        taken = dict(changes)
        try:
            with_values(project, taken)
        except ProjectError:
            if not waiting or not _fits(project, {**taken, **waiting}):
                raise
            return {**taken, **waiting}
        more = True
        while more:
            more = False
            for path, value in tuple(waiting.items()):
                if _fits(project, {**taken, path: value}):
                    taken[path] = waiting.pop(path)
                    more = True
        if waiting and _fits(project, {**taken, **waiting}):
            taken |= waiting
        return taken


def _why(project: Project, entry: RefusedEntry) -> str:
    try:
        with_values(project, {entry.path: entry.value})
    except ProjectError as error:
        return spoken(error.here)
    return in_words("It fits now: Enter takes it.")


def _fits(project: Project, changes: Mapping[str, Any]) -> bool:
    try:
        with_values(project, changes)
    except ProjectError:
        return False
    return True
