"""What there is to notice about the rating of the whole path: a stall, joints that set it."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.bms.verdicts import BoardVerdict
from lumvak.core.document.need import Need
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.said import phrase, say


def stall_findings(
    need: Need, verdict: BoardVerdict | None, chain: tuple[Link, ...]
) -> Iterator[Finding]:
    """What cuts off a tool that stalls; ``verdict`` is that of the board in force."""
    stall = need.stall_current_a if need.kind == "tool" else None
    if stall is None or verdict is None:
        return
    stages = [stage for stage in verdict.board.stages if stall > stage.current_a]
    if stages:
        last = stages[-1]
        yield Finding(
            "stall-cut",
            "note",
            text=phrase(
                "A stall of {} is cut off after {}", say(stall, "A"), say(last.delay_s, "s")
            ),
            why=phrase("{} trips at {}.", verdict.board.name, say(last.current_a, "A")),
            do="Let go of the trigger, and find out how the BMS wakes again.",
            stage="need",
            figure="need.stall_current_a",
        )
        return
    first = verdict.board.stages[0]
    weak = min(chain, key=lambda link: link.peak_a)
    if stall > weak.peak_a:
        yield Finding(
            "stall-not-cut",
            "warn",
            text=phrase("Nothing cuts off a stall of {}", say(stall, "A")),
            why=phrase(
                "{} trips from {}, the {} carry {} for the length of the peak.",
                verdict.board.name,
                say(first.current_a, "A"),
                weak.name,
                say(weak.peak_a, "A"),
            ),
            do="Take a BMS that trips lower, or a fuse, or strengthen that part.",
            stage="need",
            figure="need.stall_current_a",
        )


def joints_rating_findings(chain: tuple[Link, ...], weakest: Link | None) -> Iterator[Finding]:
    """Joints that set the rating of the pack, where its cells could give clearly more."""
    if weakest is not None and weakest.stage == "joints" and not weakest.bursts:
        cells = chain[0]
        if cells.continuous_a > 1.1 * weakest.continuous_a:
            yield Finding(
                "joints-set-rating",
                "note",
                text=phrase(
                    "The {} set the rating, {}", weakest.name, say(weakest.continuous_a, "A")
                ),
                why=phrase("The cells could give {}.", say(cells.continuous_a, "A")),
                do="More strip or a busbar there raises what the whole pack can do.",
                stage="joints",
                figure=weakest.limit.key,
            )
