"""The settings of a board: what to type into one that can be set, each with its reason.

A board that cannot be set shows what it is made for, beside what would be wanted (methods 12).
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.bms.verdicts import OVER_VOLTAGE_HARM_V, BoardSetting
from lumvak.core.catalogue.boards import Board, BoardStage
from lumvak.core.document.power import SettingChange, SettingKey
from lumvak.core.said import Text, digits, phrase, say

NAMES: dict[SettingKey, str] = {
    "over-voltage": "Cell over-voltage",
    "under-voltage": "Cell under-voltage",
    "over-current-1": "Over-current, slow",
    "over-current-2": "Over-current, quick",
    "short-circuit": "Short circuit",
    "charge-current": "Charge over-current",
    "charge-cold": "No charge under",
    "charge-hot": "No charge over",
    "discharge-cold": "No discharge under",
    "discharge-hot": "No discharge over",
    "balance-from": "Balances from",
    "balance-spread": "Balances a spread over",
}
OVER_V, RELEASE_V, UNDER_V, UNDER_RELEASE_V = 0.05, 0.10, 0.10, 0.30
QUICK_S, SLOW_LEAST_S, SLOW_MOST_S, SLOW_FACTOR = 0.1, 1.0, 30.0, 1.5
CURRENT_MARGIN, CHARGE_MARGIN, CHARGE_DELAY_S = 1.25, 1.2, 5.0
COLD_MARGIN_C, TEMPERATURE_RELEASE_C = 2.0, 5.0
BALANCE_UNDER_FULL_V, BALANCE_SPREAD_V = 0.10, 0.01
HOTTEST_DISCHARGE_C = 60.0


class SettingRow(Struct, frozen=True):
    """One setting: what is in force, what is wanted and why; ``problem`` where it does not do.
    ``accepts`` then says what would.

    ``origin`` is ``proposed``, ``typed`` or ``fixed`` (what the board is made for).
    """

    key: SettingKey
    value: float | None
    unit: str
    release: float | None
    delay_s: float | None
    wanted: float
    reason: Text
    origin: str
    problem: Text = ""
    accepts: Text = ""

    @property
    def name(self) -> str:
        """The setting in words."""
        return NAMES[self.key]


def wanted_rows(board: Board, setting: BoardSetting, ceiling_v: float | None) -> list[SettingRow]:
    """What this pack wants of a board, each with its reason.

    It is long, for every setting has its row and its reason.
    """
    cell, draw = setting.cell, setting.draw
    full = min(cell.voltage_full_v, ceiling_v or cell.voltage_full_v)
    ends = "the charge limit" if full < cell.voltage_full_v else "the cell's full voltage"
    slow_s = min(max(SLOW_LEAST_S, SLOW_FACTOR * draw.peak_s), SLOW_MOST_S)
    slow = CURRENT_MARGIN * draw.most_a(slow_s)
    quick = max(CURRENT_MARGIN * draw.most_a(QUICK_S), slow)
    last = board.stages[-1]
    charge = CHARGE_MARGIN * setting.charge_a if setting.charge_a else board.charge_a
    top = min(cell.discharge_max_c, HOTTEST_DISCHARGE_C)

    def row(
        key: SettingKey,
        value: float,
        unit: str,
        reason: Text,
        release: float | None = None,
        delay_s: float | None = None,
    ) -> SettingRow:
        value = round(value, 3)
        return SettingRow(
            key,
            value,
            unit=unit,
            release=None if release is None else round(release, 3),
            delay_s=delay_s,
            wanted=value,
            reason=reason,
            origin="proposed",
        )

    return [
        row(
            "over-voltage",
            full + OVER_V,
            "V",
            phrase(
                "{} over {}, so that a charge ends by the charger and not by the BMS",
                say(OVER_V, "V"),
                ends,
            ),
            full - RELEASE_V + OVER_V,
            1.0,
        ),
        row(
            "under-voltage",
            cell.voltage_empty_v + UNDER_V,
            "V",
            phrase(
                "{} over what the cell's sheet calls empty; it holds on through the sag of a start",
                say(UNDER_V, "V"),
            ),
            cell.voltage_empty_v + UNDER_V + UNDER_RELEASE_V,
            1.0,
        ),
        row(
            "over-current-1",
            min(slow, board.stages[0].current_a),
            "A",
            phrase("a quarter over what is drawn for {} s", digits(slow_s, ".3g")),
            None,
            slow_s,
        ),
        row(
            "over-current-2",
            min(quick, board.stages[-2].current_a if len(board.stages) > 1 else last.current_a),
            "A",
            "a quarter over what a peak or a start still draws after its delay",
            None,
            QUICK_S,
        ),
        row(
            "short-circuit",
            last.current_a,
            "A",
            "as its switches are made for; the fuse comes after it",
            None,
            last.delay_s,
        ),
        row(
            "charge-current",
            min(charge, board.charge_a),
            "A",
            "a fifth over the charger" if setting.charge_a else "what the BMS charges at",
            None,
            CHARGE_DELAY_S,
        ),
        row(
            "charge-cold",
            max(cell.charge_min_c + COLD_MARGIN_C, 0.0),
            "°C",
            "the cell's sheet; lithium plates out in the cold",
            max(cell.charge_min_c + COLD_MARGIN_C, 0.0) + TEMPERATURE_RELEASE_C,
        ),
        row(
            "charge-hot",
            cell.charge_max_c - COLD_MARGIN_C,
            "°C",
            "the cell's sheet",
            cell.charge_max_c - COLD_MARGIN_C - TEMPERATURE_RELEASE_C,
        ),
        row(
            "discharge-cold",
            cell.discharge_min_c,
            "°C",
            "the cell's sheet",
            cell.discharge_min_c + TEMPERATURE_RELEASE_C,
        ),
        row(
            "discharge-hot",
            top,
            "°C",
            "the cell's sheet, and no hotter than a hand bears",
            top - TEMPERATURE_RELEASE_C,
        ),
        row(
            "balance-from",
            full - BALANCE_UNDER_FULL_V,
            "V",
            "at the top of the charge, where voltage tells charge",
        ),
        row("balance-spread", BALANCE_SPREAD_V, "V", "finer than this meters do not tell"),
    ]


def fixed_values(board: Board) -> dict[SettingKey, tuple[float, float | None, float | None]]:
    """What a board is made for: value, release and delay, for what its sheet gives."""
    found: dict[SettingKey, tuple[float, float | None, float | None]] = {
        "over-voltage": (
            board.over_voltage_v,
            board.over_voltage_release_v,
            board.over_voltage_delay_s,
        ),
        "under-voltage": (
            board.under_voltage_v,
            board.under_voltage_release_v,
            board.under_voltage_delay_s,
        ),
        "charge-current": (board.charge_a, None, None),
    }
    keys: tuple[SettingKey, ...] = ("over-current-1", "over-current-2", "short-circuit")
    if len(board.stages) == 2:
        keys = ("over-current-1", "short-circuit")
    elif len(board.stages) == 1:
        keys = ("short-circuit",)
    for key, stage in zip(keys, board.stages[-len(keys) :], strict=True):
        found[key] = (stage.current_a, None, stage.delay_s)
    if board.balance_from_v is not None and board.balance_a:
        found["balance-from"] = (board.balance_from_v, None, None)
    return found


def settings_of(
    board: Board, setting: BoardSetting, ceiling_v: float | None
) -> tuple[SettingRow, ...]:
    """The settings sheet of a board: as typed or proposed where it can be set, else as it is."""
    rows = wanted_rows(board, setting, ceiling_v)
    if board.adjustable:
        typed = {item.key: item for item in setting.protection.settings}
        rows = [_changed(row, typed.get(row.key)) for row in rows]
    else:
        fixed = fixed_values(board)
        rows = [
            replace(
                row,
                value=fixed[row.key][0],
                release=fixed[row.key][1],
                delay_s=fixed[row.key][2],
                origin="fixed",
            )
            if row.key in fixed
            else replace(row, value=None, release=None, delay_s=None, origin="fixed")
            for row in rows
        ]
    judged = [_judged(row, board, setting) for row in rows]
    return tuple(_in_order(judged) if board.adjustable else judged)


def _in_order(rows: list[SettingRow]) -> list[SettingRow]:
    """Mark a slow stage that is not under the quick one, or is not slower."""
    by_key = {row.key: row for row in rows}
    slow, quick = by_key["over-current-1"], by_key["over-current-2"]
    text: Text = ""
    accepts: Text = ""
    if (slow.value or 0.0) > (quick.value or 0.0):
        text, accepts = "over the quick level", phrase("up to {}", say(quick.value, "A"))
    elif (slow.delay_s or 0.0) < (quick.delay_s or 0.0):
        text, accepts = "sooner than the quick level", phrase("{} or more", say(quick.delay_s, "s"))
    if not text or slow.problem:
        return rows
    return [replace(row, problem=text, accepts=accepts) if row is slow else row for row in rows]


def _changed(row: SettingRow, change: SettingChange | None) -> SettingRow:
    if change is None:
        return row
    return replace(
        row,
        value=row.value if change.value is None else change.value,
        release=row.release if change.release is None else change.release,
        delay_s=row.delay_s if change.delay_s is None else change.delay_s,
        origin="typed",
    )


def _judged(row: SettingRow, board: Board, setting: BoardSetting) -> SettingRow:
    problem, accepts = _problem(row, board, setting)
    return replace(row, problem=problem, accepts=accepts)


class _Problem(NamedTuple):
    """What is wrong with a setting, and what would be accepted."""

    text: Text
    accepts: Text


def _problem(row: SettingRow, board: Board, setting: BoardSetting) -> _Problem:
    """What is wrong with a setting, and what would be accepted; empty where nothing is."""
    cell, value = setting.cell, row.value
    if value is None:
        return _Problem("", "")
    if row.key == "over-voltage":
        most = cell.voltage_full_v + OVER_VOLTAGE_HARM_V
        if value > most + 1e-9:
            return _Problem("beyond what the cell stands", phrase("up to {}", say(most, "V")))
        if row.release is not None and row.release >= value:
            return _Problem("releases no lower than it trips", phrase("under {}", say(value, "V")))
    if row.key == "under-voltage":
        if value < cell.voltage_empty_v - 1e-9:
            return _Problem(
                "under what the cell's sheet calls empty",
                phrase(
                    "{} or more",
                    say(cell.voltage_empty_v, "V"),
                ),
            )
        if row.release is not None and row.release <= value:
            return _Problem("releases no higher than it trips", phrase("over {}", say(value, "V")))
    if row.key in ("over-current-1", "over-current-2", "short-circuit"):
        return _current_problem(row, board, setting)
    if row.key == "charge-current" and value < setting.charge_a - 1e-9:
        return _Problem(
            "under what the charger gives", phrase("{} or more", say(setting.charge_a, "A"))
        )
    bounds: Mapping[str, tuple[float, float, str]] = {
        "charge-cold": (cell.charge_min_c, 150.0, "{} or more"),
        "charge-hot": (-60.0, cell.charge_max_c, "{} or less"),
        "discharge-cold": (cell.discharge_min_c, 150.0, "{} or more"),
        "discharge-hot": (-60.0, cell.discharge_max_c, "{} or less"),
    }
    if row.key in bounds:
        low, high, side = bounds[row.key]
        if not low - 1e-9 <= value <= high + 1e-9:
            edge = low if side == "{} or more" else high
            return _Problem("beyond the cell's sheet", phrase(side, say(edge, "°C")))
    if row.key == "balance-from" and value > cell.voltage_full_v:
        return _Problem(
            "the cell is full before it", phrase("up to {}", say(cell.voltage_full_v, "V"))
        )
    return _Problem("", "")


def _current_problem(row: SettingRow, board: Board, setting: BoardSetting) -> _Problem:
    value, delay = row.value or 0.0, row.delay_s or 0.0
    drawn = setting.draw.most_a(delay) if delay else setting.draw.continuous_a
    if value < drawn - 1e-9:
        return _Problem(
            phrase("trips in use: {} is drawn for that long", say(drawn, "A")), "more than that"
        )
    places = {"over-current-1": 0, "over-current-2": -2, "short-circuit": -1}
    place = places[row.key]
    stage = board.stages[place if len(board.stages) >= abs(place) else 0]
    if board.adjustable and value > stage.current_a + 1e-9:
        return _Problem(
            "more than its switches are made for", phrase("up to {}", say(stage.current_a, "A"))
        )
    return _Problem("", "")


def board_as_set(board: Board, rows: tuple[SettingRow, ...]) -> Board:
    """The board as its settings make it; the same where it cannot be set."""
    if not board.adjustable:
        return board
    by_key = {row.key: row for row in rows}
    stages = sorted(
        (
            (row.value, row.delay_s)
            for row in (by_key["over-current-1"], by_key["over-current-2"], by_key["short-circuit"])
            if row.value and row.delay_s
        ),
        key=lambda pair: pair[0],
    )
    over, under = by_key["over-voltage"], by_key["under-voltage"]
    changes: dict[str, Any] = {
        "stages": tuple(BoardStage(current_a=amps, delay_s=delay) for amps, delay in stages),
        "continuous_a": min(board.continuous_a, stages[0][0]),
        "over_voltage_v": over.value,
        "over_voltage_release_v": over.release,
        "over_voltage_delay_s": over.delay_s,
        "under_voltage_v": under.value,
        "under_voltage_release_v": under.release,
        "under_voltage_delay_s": under.delay_s,
        "charge_a": min(board.charge_a, by_key["charge-current"].value or board.charge_a),
        "balance_from_v": by_key["balance-from"].value,
    }
    return replace(board, **changes)


def spread_of(board: Board | None, settings: tuple[SettingRow, ...]) -> float | None:
    """Over what spread in V an adjustable board balances; ``None`` where it looks at none."""
    if board is None or not board.adjustable:
        return None
    return next((row.value for row in settings if row.key == "balance-spread"), None)
