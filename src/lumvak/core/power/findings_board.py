"""What there is to notice on the board and on what is set in it."""

from __future__ import annotations

import math
from collections.abc import Iterator

from lumvak.core.bms.verdicts import BoardChoice
from lumvak.core.catalogue.boards import KIND_LOSSES
from lumvak.core.document.power import AS_SPECIFIED_ID, Protection
from lumvak.core.figures.finding import Finding
from lumvak.core.power.as_specified import nearest, specified_note
from lumvak.core.power.fuses import SHORT_OPENS_S
from lumvak.core.power.power_path import Power
from lumvak.core.said import capital, in_line, phrase, say, sentences


def board_findings(boards: BoardChoice, one_port: bool) -> Iterator[Finding]:
    """What speaks against the board, and what is to be known of it.

    ``one_port`` where the equipment has two contacts.
    """
    verdict, first = boards.verdict, boards.first
    if verdict is None:
        return
    board = verdict.board
    if board.id == AS_SPECIFIED_ID:
        near = "" if first is None else nearest(first.board.name, first.reasons)
        serves = first is not None and first.serves
        yield specified_note("bms", "BMS", near, "board.continuous_a", chosen=serves)
    for reason in verdict.reasons:
        yield Finding(
            f"board-{reason.code}",
            "stop",
            text=phrase("{} {}", board.name, reason.text),
            why="The BMS was picked although this speaks against it.",
            do=sentences(
                phrase("Take {}.", first.board.name),
                phrase("Or: {}", in_line(reason.help)) if reason.help else "",
            )
            if first is not None and first.serves
            else reason.help or "Relax a condition.",
            stage="power",
            figure="start.current_a" if reason.code == "start" else "board.continuous_a",
        )
    for remark in verdict.remarks:
        yield Finding(
            f"board-{remark.code}-remark",
            "note",
            text=phrase("{} {}", board.name, remark.text),
            why=phrase("{}.", capital(KIND_LOSSES[board.kind]))
            if KIND_LOSSES[board.kind]
            else "It serves all the same.",
            do=remark.help or "Check it against the cell's sheet before trusting it.",
            stage="power",
            figure={"heat": "board.rise_k", "bleed": "board.bleed_h"}.get(
                remark.code, "board.continuous_a"
            ),
        )
    if one_port:
        yield Finding(
            "one-port",
            "note",
            "Two contacts: charge and discharge share one port",
            "A BMS with a separate charge port would leave one of them unprotected.",
            "Only BMSs with one port are offered.",
            "power",
        )


def least_short_findings(power: Power) -> Iterator[Finding]:
    """Whether the board sees the least short circuit, and ends it in time (methods 22)."""
    board, least, fuse = power.board, power.short_least_a, power.fuse.part
    if board is None or not board.protects:
        return
    in_time = [stage for stage in board.stages if stage.delay_s <= SHORT_OPENS_S]
    lowest = min((stage.current_a for stage in in_time), default=math.inf)
    by_volts = board.under_voltage_delay_s <= SHORT_OPENS_S
    if lowest <= least.number or (by_volts and power.short_cell_v.number < board.under_voltage_v):
        return
    asks = phrase("asks for {}", say(lowest, "A")) if in_time else "has no level so quick"
    yield Finding(
        "board-least-short",
        "stop" if fuse is None else "warn",
        text=phrase(
            "{} need not end a short circuit within {}: cold, worn and nearly empty the "
            "pack gives {}, the BMS {}",
            board.name,
            say(SHORT_OPENS_S, "s"),
            say(least.number, "A"),
            asks,
        ),
        why="Nothing else ends it." if fuse is None else phrase("Only {} ends it.", fuse.name),
        do="A BMS whose levels lie lower, thicker leads, or more in parallel.",
        stage="power",
        figure=least.key,
    )


def settings_findings(power: Power, protection: Protection) -> Iterator[Finding]:
    """Settings that the board cannot take, or that lie idle."""
    board = power.board
    if board is None:
        return
    for row in power.settings:
        if not row.problem or not board.adjustable:
            continue
        yield Finding(
            "setting-beyond",
            "stop",
            phrase("{}: {} is {}", row.name, say(row.value, row.unit), row.problem),
            phrase("Proposed is {}: {}.", say(row.wanted, row.unit), row.reason),
            phrase("Accepted: {}.", row.accepts),
            "power",
        )
    typed = [item.key for item in protection.settings]
    if typed and not board.adjustable:
        yield Finding(
            "settings-unused",
            "note",
            phrase("{} cannot be set: {} of your settings lie idle", board.name, len(typed)),
            "They come into force with a BMS that can be set.",
            "Take one that can, or clear them.",
            "power",
        )
