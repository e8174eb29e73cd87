"""Writes the log of a pack along with edits: what was done gets its moment and its name."""

from __future__ import annotations

import secrets
from collections.abc import Iterable

from lumvak.bench.moment import moment_now
from lumvak.core.document.afterwards.record_of_pack import LogEntry
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.log import ToLog, along, plug_allowed, with_log


def fresh_id() -> str:
    """A name that no other entry has."""
    return secrets.token_hex(4)


def written_along(before: Project, after: Project) -> Project:
    """``after`` with what the edit did in its log."""
    return _with(after, along(before, after))


def allowed_along(evaluation: Evaluation) -> Project:
    """The project of an evaluation, with what its results allow in its log."""
    project, verdict = evaluation.project, evaluation.balance.check.verdict
    return _with(project, plug_allowed(project, verdict is not None and verdict.safe))


def _with(project: Project, items: Iterable[ToLog]) -> Project:
    entries = tuple(
        LogEntry(
            id=fresh_id(),
            when=moment_now(),
            kind=item.kind,
            stage=item.stage,
            group=item.group,
            text=item.text,
            who=project.record.builder,
            readings=item.readings,
        )
        for item in items
    )
    return with_log(project, (*project.record.log, *entries)) if entries else project
