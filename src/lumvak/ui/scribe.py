"""Writes the log of a pack along with edits: what was done gets its moment and its name."""

from __future__ import annotations

import secrets

from lumvak.bench.moment import moment_now
from lumvak.core.document.project import Project
from lumvak.core.document.record_of_pack import LogEntry
from lumvak.core.record_of_pack.log import along, with_log


def fresh_id() -> str:
    """A name that no other entry has."""
    return secrets.token_hex(4)


def written_along(before: Project, after: Project) -> Project:
    """``after`` with what the edit did in its log."""
    entries = tuple(
        LogEntry(
            id=fresh_id(),
            when=moment_now(),
            kind=item.kind,
            stage=item.stage,
            group=item.group,
            text=item.text,
            who=after.record.builder,
            readings=item.readings,
        )
        for item in along(before, after)
    )
    return with_log(after, (*after.record.log, *entries)) if entries else after
