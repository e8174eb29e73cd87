"""What there is to notice about packs in parallel."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.beside.together import Together
from lumvak.core.figures.finding import Finding
from lumvak.core.said import capital, phrase, say

STAGE = "beside"


def beside_findings(found: Together) -> Iterator[Finding]:
    """Why they must not be joined, not as they stand, or not for this load; what a port hides."""
    for reason in found.why_not:
        yield Finding(
            "beside-never",
            "stop",
            text=reason,
            why="Packs in parallel have one voltage at every moment.",
            do="Use them one at a time, or make one like the other.",
            stage=STAGE,
            cure="beside.series",
        )
    yield from _plugs(found)
    yield from _carried(found)
    for side in found.sides:
        for note in side.notes:
            yield Finding(
                "beside-port",
                "warn",
                text=note,
                why="Its BMS has a port for the charge alone.",
                do="Join it by its discharge port, or through a fuse and a switch of its own.",
                stage=STAGE,
                cure="beside.port",
            )


def _plugs(found: Together) -> Iterator[Finding]:
    """What must not be plugged in as it stands."""
    for place, plug in enumerate(found.plugs, 1):
        if plug.is_safe:
            continue
        worst = min(plug.limits, key=lambda it: it.limit_a / max(it.carries_a, 1e-9))
        yield Finding(
            "beside-apart",
            "warn",
            text=capital(
                phrase(
                    "{} must not be joined as it stands: {} apart",
                    found.sides[place].name,
                    say(abs(plug.apart_v), "V"),
                )
            ),
            why=phrase(
                "{} would flow; the {} of {}: {}",
                say(plug.peak_a, "A"),
                worst.what,
                worst.side,
                say(worst.limit_a, "A"),
            ),
            do="Charge the lower one first, or wait until they are level within what is told.",
            stage=STAGE,
            figure="beside.peak_a" if place == 1 else "",
            cure="beside.at",
        )


def _carried(found: Together) -> Iterator[Finding]:
    """What carries more than it may while they run."""
    over = [it for it in found.carried if not it.holds and it.when != "joined"]
    if over:
        worst = min(over, key=lambda it: it.limit_a / it.carries_a)
        yield Finding(
            "beside-over",
            "warn",
            text=phrase(
                "The {} of {} carries {} while it is {}",
                worst.what,
                worst.side,
                say(worst.carries_a, "A"),
                worst.when,
            ),
            why=phrase("It may carry {}.", say(worst.limit_a, "A")),
            do="Draw less from both, or have that part carry more.",
            stage=STAGE,
            cure="beside.current_a",
        )
