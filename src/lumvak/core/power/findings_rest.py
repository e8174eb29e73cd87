"""What there is to notice on the pack at rest and on its rails."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.document.power import Rest
from lumvak.core.figures.finding import Finding
from lumvak.core.need.rails import RailLoad
from lumvak.core.power.at_rest import Shelf
from lumvak.core.said import digits, phrase, say


def rest_findings(shelf: Shelf, rest: Rest) -> Iterator[Finding]:
    """Whether the pack outlasts the days it is left."""
    cut_days, harm_days = shelf.cut_days.at_most, shelf.total_days.at_most
    if harm_days < rest.days:
        yield Finding(
            "shelf-flat",
            "stop" if cut_days < 1.0 else "warn",
            text=phrase(
                "Stored for {} days its cells are harmed after {}",
                digits(rest.days, "g"),
                digits(harm_days, ".0f"),
            ),
            why=phrase(
                "It cuts off after {} days, and is drained further from there.",
                digits(cut_days, ".0f"),
            ),
            do="Switch off meter and converter, take a BMS that draws less, store it fuller, "
            "or recharge in time.",
            stage="power",
            figure="rest.total_days",
        )
    elif cut_days < rest.days:
        yield Finding(
            "shelf-cuts",
            "warn",
            text=phrase(
                "Stored for {} days it is found dead: it cuts off after {}",
                digits(rest.days, "g"),
                digits(cut_days, ".0f"),
            ),
            why=phrase(
                "From there it has about {} days until its cells are harmed.",
                digits(harm_days - cut_days, ".0f"),
            ),
            do="Switch off meter and converter, or recharge before.",
            stage="power",
            figure="rest.cut_days",
        )


def rail_findings(rails: tuple[RailLoad, ...]) -> Iterator[Finding]:
    """Rails without a fuse of their own, or with one that is too small."""
    for load in rails:
        fuse, flows = load.rail.fuse_a, load.given_w.number / load.rail.volts
        if fuse is not None and flows > 0.8 * fuse + 1e-9:
            yield Finding(
                "rail-fuse",
                "stop" if flows > fuse else "warn",
                text=phrase(
                    "Rail {} draws {} through a fuse of {}",
                    load.rail.name,
                    say(flows, "A"),
                    say(fuse, "A"),
                ),
                why="A fuse is loaded to 80 % of its rating continuously.",
                do=phrase("Take {} or more, if the rail's wire carries it.", say(flows / 0.8, "A")),
                stage="power",
                figure=load.given_w.key,
            )
        elif fuse is None:
            yield Finding(
                "rail-unfused",
                "note",
                text=phrase("Rail {} has no fuse of its own", load.rail.name),
                why="A short on it is left to the converter or the main fuse.",
                do=phrase("Fuse it at {} or a little more.", say(max(1.0, flows / 0.8), "A")),
                stage="power",
                figure=load.given_w.key,
            )
