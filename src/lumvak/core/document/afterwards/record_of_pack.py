"""What stays with the pack: its log, its label, and what an older label claimed."""

from typing import Annotated, Literal

from lumvak.core.document.afterwards.passport import Date, Passport
from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import phrase

Entry = Literal[
    "note", "cells placed", "leads checked", "plug allowed", "first charge", "test", "BMS set",
    "closed up", "deviation", "correction", "taken over",
]  # fmt: skip
MOST_ENTRIES = 20_000
EntryId = Annotated[str, about(like="eight letters or digits", pattern=r"^[0-9a-z]{8}$")]
Moment = Annotated[
    str,
    about(
        like="a moment such as 2026-05-31 14:05:00",
        pattern=r"^[0-9]{4}-[0-9]{2}-[0-9]{2}( [0-9]{2}:[0-9]{2}(:[0-9]{2})?)?$",
    ),
]


Photo = Annotated[str, about(like="a file such as photos/side-a.jpg", min_length=1, max_length=500)]
# What became of a pack whose record goes on with another.
How = Literal["rebuilt", "extended", "taken apart"]


class LogEntry(Document, frozen=True, kw_only=True):
    """One line of the log; ``corrects`` is the entry that it puts right.

    ``readings`` tells that a reading stands behind it, so that no step back takes it away.
    ``photos`` are files, named from the folder of the project where they lie in it.
    """

    id: Annotated[EntryId, about("Entry")]
    when: Annotated[Moment, about("When")]
    kind: Annotated[Entry, about("What")] = "note"
    stage: Annotated[str, about("Stage", max_length=40)] = ""
    group: Annotated[int, about("Group", ge=1, le=400)] | None = None
    text: Annotated[str, about("Text", min_length=1, max_length=500)]
    reason: Annotated[str, about("Reason", max_length=500)] = ""
    who: Annotated[str, about("Who", max_length=60)] = ""
    corrects: Annotated[EntryId, about("Corrects")] | None = None
    photos: Annotated[tuple[Photo, ...], about("Photographs", max_length=12)] = ()
    readings: Annotated[bool, about("Has readings")] = False


class TakenOver(Document, frozen=True, kw_only=True):
    """A pack whose record goes on here: what became of it, when, and what it was."""

    how: Annotated[How, about("How")]
    day: Annotated[Date, about("Day")]
    was: Passport


class LabelWanted(Document, frozen=True):
    """The label as it is printed."""

    width_mm: Annotated[float, about("Width", "mm", ge=20, le=300)] = 100.0
    height_mm: Annotated[float, about("Height", "mm", ge=15, le=300)] = 60.0


class PackRecord(Document, frozen=True):
    """The log, who built the pack and when, its label, and what its label claimed before.

    ``glance`` is what the pack was when it was saved last, for whoever lists it without working it
    out.
    """

    log: Annotated[tuple[LogEntry, ...], about("Log", max_length=MOST_ENTRIES)] = ()
    builder: Annotated[str, about("Built by", max_length=60)] = ""
    built: Annotated[Date, about("Built", tip="The day on which the pack was closed up")] | None = (
        None
    )
    label: LabelWanted = LabelWanted()
    claimed: Annotated[tuple[Passport, ...], about("Claimed by its label", max_length=4)] = ()
    taken_over: Annotated[tuple[TakenOver, ...], about("Taken over", max_length=20)] = ()
    glance: Annotated[tuple[Passport, ...], about("When saved last", max_length=1)] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        known = [item.id for item in self.log]
        if len(set(known)) < len(known):
            raise Unfit("log", "an entry is there twice; accepted: each once")
        for item in self.log:
            if item.corrects is not None and item.corrects not in known:
                raise Unfit(
                    "log", phrase("{} corrects no entry; accepted: one of the log", item.id)
                )
