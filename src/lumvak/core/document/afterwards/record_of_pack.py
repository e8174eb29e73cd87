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

    id: Annotated[EntryId, about("Entry", tip="Number of the entry")]
    when: Annotated[Moment, about("When", tip="Day and time")]
    kind: Annotated[Entry, about("What", tip="What the entry is about")] = "note"
    stage: Annotated[str, about("Stage", max_length=40, tip="Stage at which it was made")] = ""
    group: (
        Annotated[int, about("Group", ge=1, le=400, tip="Number of a group, where it is about one")]
        | None
    ) = None
    text: Annotated[str, about("Text", min_length=1, max_length=500, tip="What was done or seen")]
    reason: Annotated[str, about("Reason", max_length=500, tip="Why it was corrected")] = ""
    who: Annotated[str, about("Who", max_length=60, tip="Whose entry it is")] = ""
    corrects: (
        Annotated[EntryId, about("Corrects", tip="Number of the entry that it puts right")] | None
    ) = None
    photos: Annotated[
        tuple[Photo, ...],
        about("Photographs", max_length=12, tip="Names of pictures beside the project"),
    ] = ()
    readings: Annotated[
        bool,
        about(
            "Has readings",
            tip="Whether readings belong to it; such an entry stays when it is undone",
        ),
    ] = False


class TakenOver(Document, frozen=True, kw_only=True):
    """A pack whose record goes on here: what became of it, when, and what it was."""

    how: Annotated[How, about("How", tip="Rebuilt, extended, or taken apart")]
    day: Annotated[Date, about("Day", tip="On which day")]
    was: Annotated[Passport, about("Was", tip="What the pack was, as its label had it")]


class LabelWanted(Document, frozen=True):
    """The label as it is printed."""

    width_mm: Annotated[float, about("Width", "mm", ge=20, le=300, tip="As printed")] = 100.0
    height_mm: Annotated[float, about("Height", "mm", ge=15, le=300, tip="As printed")] = 60.0


class PackRecord(Document, frozen=True):
    """The log, who built the pack and when, its label, and what its label claimed before.

    ``glance`` is what the pack was when it was saved last, for whoever lists it without working it
    out.
    """

    log: Annotated[
        tuple[LogEntry, ...],
        about("Log", max_length=MOST_ENTRIES, tip="Entries in the order in which they were made"),
    ] = ()
    builder: Annotated[str, about("Built by", max_length=60, tip="Name on label and report")] = ""
    built: Annotated[Date, about("Built", tip="The day on which the pack was closed up")] | None = (
        None
    )
    label: Annotated[LabelWanted, about("Label", tip="Size of the label")] = LabelWanted()
    claimed: Annotated[
        tuple[Passport, ...],
        about("Claimed by its label", max_length=4, tip="What an older label of this pack said"),
    ] = ()
    taken_over: Annotated[
        tuple[TakenOver, ...],
        about("Taken over", max_length=20, tip="Packs whose record goes on here"),
    ] = ()
    glance: Annotated[
        tuple[Passport, ...],
        about(
            "When saved last",
            max_length=1,
            tip="What a list of projects shows without working it out",
        ),
    ] = ()

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
