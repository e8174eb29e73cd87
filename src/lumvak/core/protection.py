"""The BMS: boards judged against the pack and the demand; who is refused, and why."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from lumvak.core.catalogue import FAMILY_NAMES, Board, Cell
from lumvak.core.need import Need
from lumvak.core.project import Protection
from lumvak.core.units import say

MARGIN = 1.2
# How far a board's over-voltage threshold may lie over the cell's full voltage; methods 12.
OVER_VOLTAGE_SLACK_V = 0.10


@dataclass(frozen=True, slots=True)
class BoardSetting:
    """What a board must do."""

    family: str
    cell: Cell
    series: int
    current_a: float
    peak_a: float
    peak_s: float
    charge_a: float
    need: Need
    protection: Protection


@dataclass(frozen=True, slots=True)
class Verdict:
    """A board with every reason against it, and what to know of it where it serves."""

    board: Board
    reasons: tuple[str, ...]
    remarks: tuple[str, ...]
    peak_a: float
    headroom: float

    @property
    def serves(self) -> bool:
        """Whether nothing speaks against the board."""
        return not self.reasons


def peak_current_a(board: Board, seconds: float) -> float:
    """Most current in A that a board passes for ``seconds`` without tripping.

    A stage trips where its current is exceeded for its delay; the lowest stage whose delay the
    peak reaches sets the limit, else the next (methods 12).
    """
    reached = [stage.current_a for stage in board.stages if seconds >= stage.delay_s]
    return min(reached) if reached else board.stages[-1].current_a


def wants_one_port(need: Need) -> bool:
    """Whether the equipment asks for one port: an old pack with two contacts does."""
    return need.kind == "tool" and need.contacts == 2


def judge(board: Board, setting: BoardSetting) -> Verdict:
    """Judge one board; all reasons are collected, the series count and chemistry first."""
    reasons: list[str] = []
    remarks: list[str] = []
    if board.series != setting.series:
        reasons.append(f"is for {board.series} in series; the pack has {setting.series}")
    if board.family != setting.family:
        reasons.append(
            f"is for {FAMILY_NAMES[board.family]} cells; these are {FAMILY_NAMES[setting.family]}"
        )
    if board.continuous_a < setting.current_a - 1e-9:
        reasons.append(
            f"{say(board.continuous_a, 'A')} continuous; "
            f"the load draws {say(setting.current_a, 'A')}"
        )
    peak = peak_current_a(board, setting.peak_s)
    if peak < setting.peak_a - 1e-9:
        reasons.append(
            f"trips at {say(peak, 'A')}; the peak is {say(setting.peak_a, 'A')} "
            f"for {say(setting.peak_s, 's')}"
        )
    if board.charge_a < setting.charge_a - 1e-9:
        reasons.append(
            f"charges at {say(board.charge_a, 'A')}; the charger gives {say(setting.charge_a, 'A')}"
        )
    if wants_one_port(setting.need) and board.ports == 2:
        reasons.append("has a separate charge port; the equipment has two contacts")
    reasons.extend(_school_reasons(board, setting))
    if board.family == setting.family:
        remarks.extend(_remarks(board, setting))
    return Verdict(
        board, tuple(reasons), tuple(remarks), peak, board.continuous_a / setting.current_a - 1.0
    )


def _school_reasons(board: Board, setting: BoardSetting) -> list[str]:
    reasons = []
    if setting.protection.balancing == "must" and board.balance_a == 0.0:
        reasons.append("does not balance; groups would drift apart unseen")
    if setting.protection.sensor and board.sensors == 0:
        reasons.append("has no temperature sensor")
    return reasons


def _remarks(board: Board, setting: BoardSetting) -> list[str]:
    remarks = []
    if board.over_voltage_v > setting.cell.voltage_full_v + OVER_VOLTAGE_SLACK_V:
        remarks.append(
            f"cuts charging at {say(board.over_voltage_v, 'V')} a cell; "
            f"this cell is full at {say(setting.cell.voltage_full_v, 'V')}"
        )
    if board.under_voltage_v < setting.cell.voltage_empty_v - 1e-9:
        remarks.append(
            f"cuts off at {say(board.under_voltage_v, 'V')} a cell; "
            f"this cell is empty at {say(setting.cell.voltage_empty_v, 'V')}"
        )
    if board.balance_a == 0.0:
        remarks.append("no balancing: groups must be matched and rechecked")
    if board.sensors == 0:
        remarks.append("no sensor: nothing stops a hot or frozen charge")
    return remarks


def verdicts(boards: Iterable[Board], setting: BoardSetting) -> tuple[Verdict, ...]:
    """All boards judged: those that serve first, the recommended one at the head.

    Order: nothing against it; nothing to remark; a fifth to spare; price. Among the refused those
    for this pack come first, then the fewer reasons.
    """

    def order(verdict: Verdict) -> tuple[bool, int, int, bool, float]:
        board = verdict.board
        return (
            (board.series, board.family) != (setting.series, setting.family),
            len(verdict.reasons),
            len(verdict.remarks),
            verdict.headroom < MARGIN - 1.0,
            verdict.board.price,
        )

    return tuple(sorted((judge(board, setting) for board in boards), key=order))


def proposed(found: tuple[Verdict, ...]) -> Verdict | None:
    """The recommended board: the first that serves; ``None`` where none does."""
    return found[0] if found and found[0].serves else None
