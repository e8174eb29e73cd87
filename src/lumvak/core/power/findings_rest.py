"""What there is to notice on the pack at rest and on its rails."""

from __future__ import annotations

import math
from collections.abc import Iterator

from lumvak.core.document.power import Rest
from lumvak.core.figures.finding import Finding
from lumvak.core.need.rails import RailLoad
from lumvak.core.power.at_rest import Shelf
from lumvak.core.units import digits, say


def rest_findings(shelf: Shelf, rest: Rest) -> Iterator[Finding]:
    """Whether the pack outlasts the days it is left."""
    total, cut = shelf.total_days.value, shelf.cut_days.value
    cut_days = math.inf if cut is None else float(cut)
    harm_days = math.inf if total is None else float(total)
    if harm_days < rest.days:
        yield Finding(
            "shelf-flat",
            "stop" if cut_days < 1.0 else "warn",
            f"Left for {digits(rest.days, 'g')} days it is harmed after {harm_days:.0f}",
            f"It cuts off after {cut_days:.0f} days, and is drained further from there.",
            "Switch off meter and converter, take a board that draws less, put it away fuller, or "
            "recharge in time.",
            "power",
            "rest.total_days",
        )
    elif cut_days < rest.days:
        yield Finding(
            "shelf-cuts",
            "warn",
            f"Left for {digits(rest.days, 'g')} days it is found dead: it cuts off after "
            f"{cut_days:.0f}",
            f"From there it has about {harm_days - cut_days:.0f} days until its cells are harmed.",
            "Switch off meter and converter, or recharge before.",
            "power",
            "rest.cut_days",
        )


def rail_findings(rails: tuple[RailLoad, ...]) -> Iterator[Finding]:
    """Rails without a fuse of their own, or with one that is too small."""
    for load in rails:
        fuse, flows = load.rail.fuse_a, load.given_w.number / load.rail.volts
        if fuse is not None and flows > 0.8 * fuse + 1e-9:
            yield Finding(
                "rail-fuse",
                "stop" if flows > fuse else "warn",
                f"Rail {load.rail.name} draws {say(flows, 'A')} through a fuse of {say(fuse, 'A')}",
                "A fuse is loaded to 80 % of its rating for good.",
                f"Take {say(flows / 0.8, 'A')} or more, if the rail's wire carries it.",
                "power",
                load.given_w.key,
            )
        elif fuse is None:
            yield Finding(
                "rail-unfused",
                "note",
                f"Rail {load.rail.name} has no fuse of its own",
                "A short on it is left to the converter or the main fuse.",
                f"Fuse it at {say(max(1.0, flows / 0.8), 'A')} or a little more.",
                "power",
                load.given_w.key,
            )
