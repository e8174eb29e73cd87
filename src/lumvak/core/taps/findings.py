"""What there is to notice about the balance leads."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from lumvak.core.catalogue.boards import Board
from lumvak.core.document.hand import Meter
from lumvak.core.document.taps import BalanceLeads
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.matching.matched import GroupNow
from lumvak.core.said import listed, phrase, say, say_about, sentences
from lumvak.core.taps.check import TapCheck, check_of
from lumvak.core.taps.figures import TapFigures
from lumvak.core.taps.watch import WatchTopic
from lumvak.core.taps.words import briefly, next_said, repair, said

STAGE = "taps"


class BalanceTopic(Struct, frozen=True, eq=False):
    """The balance leads with what was read on them; they add no link to the path."""

    check: TapCheck
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]
    links: tuple[Link, ...] = ()


def balance_topic(
    leads: BalanceLeads,
    taps: TapFigures,
    board: Board | None,
    groups: tuple[GroupNow, ...],
    half_v: float,
    series: int,
    meter: Meter,
    watched: WatchTopic,
    astray: tuple[int, ...] = (),
) -> BalanceTopic:
    """The balance leads as a topic of the evaluation.

    ``groups`` are those in hand as measured, ``half_v`` what a cell rests at when half full,
    ``watched`` the group voltages that were taken over time. ``astray`` are leads whose way lies
    too far out to be followed.
    """
    shown_v = watched.seen[-1].volts.tolist() if watched.seen else ()
    plug = None if board is None else board.plug
    check = check_of(
        leads,
        groups,
        half_v=half_v,
        series=series,
        meter=meter,
        shown_v=shown_v,
        first_is_main=plug is not None and plug.first == "positive",
    )
    findings = (
        *tap_findings(leads, taps, series),
        *_astray(astray),
        *_plugs(board, series),
        *_bricks(leads, series),
        *_checked(check),
    )
    return BalanceTopic(check, (taps.fault, taps.melts, *check.figures), findings)


def tap_findings(leads: BalanceLeads, taps: TapFigures, series: int) -> tuple[Finding, ...]:
    """Balance leads without a fuse, where there are at least two groups."""
    if leads.fuse_a is not None or series <= 1:
        return ()
    return (
        Finding(
            "balance-leads-unfused",
            "note",
            text=phrase(
                "Two balance leads that touch carry {} and melt within {}",
                say(taps.fault.value, "A"),
                say_about(taps.melts.number),
            ),
            why="They lie over places of other voltage and have no fuse.",
            do="Insulate and strip one at a time; or a small fuse in each, close to the cells.",
            stage="power",
            figure=taps.fault.key,
            beside=(taps.melts.key,),
        ),
    )


def _astray(leads: tuple[int, ...]) -> Iterator[Finding]:
    if leads:
        named = listed(leads, ", ", " and ")
        yield Finding(
            "taps-astray",
            "warn",
            text=phrase("The route of lead {} lies farther outside than the pack is long", named),
            why="It is not followed: the lead takes the usual route, and its length is of that.",
            do="Lay it anew where the pack is.",
            stage=STAGE,
            figure="taps.whole_v",
        )


def _plugs(board: Board | None, series: int) -> Iterator[Finding]:
    if board is not None and board.series < series:
        yield Finding(
            "taps-few-inputs",
            "stop",
            text=phrase(
                "{} has inputs for {} groups, the pack has {}", board.name, board.series, series
            ),
            why="The groups over that would be charged and run down unseen.",
            do="Take a BMS for as many groups.",
            stage=STAGE,
            figure="taps.whole_v",
        )


def _bricks(leads: BalanceLeads, series: int) -> Iterator[Finding]:
    there = sum(item.groups for item in leads.modules)
    if leads.modules and there != series:
        yield Finding(
            "taps-bricks",
            "warn",
            text=phrase("The bricks have {} groups, the pack has {}", there, series),
            why="The harness is shown as one plug.",
            do="Share the groups out among the bricks.",
            stage=STAGE,
            figure="balance_leads.modules",
        )


def _checked(check: TapCheck) -> Iterator[Finding]:
    """What the readings say, once all are there."""
    found = check.verdict
    if found is None or found.safe:
        return
    first = found.hypotheses[0]
    if found.unproven:
        assert found.next is not None, "a reading from lead 0 proves it"
        yield Finding(
            "taps-zero",
            "note",
            text="Not yet safe to plug in: lead 0 is not proven",
            why="An open lead 0 reads 0 V, as a good one does.",
            do=next_said(found.next),
            stage=STAGE,
            figure="taps.whole_v",
        )
        return
    if len(found.hypotheses) > 1:
        text = phrase("Do not plug in: {} things explain the readings", len(found.hypotheses))
        why = sentences(*(said(item) for item in found.hypotheses[:3]))
    else:
        text, why = (
            phrase("Do not plug in: {}", briefly(first)),
            "A BMS dies of a wrong order.",
        )
    do = repair(first) if found.next is None else next_said(found.next)
    yield Finding(
        "taps-wrong", "stop", text=text, why=why, do=do, stage=STAGE, figure="taps.whole_v"
    )
