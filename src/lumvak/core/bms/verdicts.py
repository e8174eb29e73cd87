"""The BMS: boards judged against the pack and the demand; who is refused, why, and what helps."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from functools import cached_property, lru_cache

from msgspec import Struct

from lumvak.core.catalogue.boards import KIND_LOSSES, KIND_NAMES, WAKE_WORDS, Board, Family
from lumvak.core.catalogue.cells import FAMILY_NAMES, Cell
from lumvak.core.document.need import Need
from lumvak.core.document.power import AS_SPECIFIED_ID, Protection, Rest
from lumvak.core.figures.point import Point
from lumvak.core.need.load_over_time import Draw
from lumvak.core.said import Text, digits, listed, phrase, say, say_delay

MARGIN = 1.2
# A board may cut charging by so much over the full voltage of a cell; methods 12.
OVER_VOLTAGE_HARM_V = 0.10
# A bleed that takes longer than this for a drift of so much of the capacity is remarked.
DRIFT, LONGEST_BLEED_H = 0.02, 24.0
# So far over its empty voltage an empty cell comes back once the load is off.
CHATTER_V = 0.2
# Rise of a board's switches over the air that is remarked, and what a watt warms a bare board by.
SWITCH_RISE_K, BARE_BOARD_K_PER_W = 50.0, 12.0


class BoardSetting(Struct, frozen=True):
    """What a board must do."""

    family: Family
    cell: Cell
    series: int
    parallel: int
    draw: Draw
    charge_a: float
    one_port: bool
    protection: Protection
    rest: Rest


class BoardVerdict(Struct, frozen=True):
    """A board with every reason against it, and what to know of it where it serves."""

    board: Board
    reasons: tuple[Point, ...]
    remarks: tuple[Point, ...]
    peak_a: float
    headroom: float

    @property
    def serves(self) -> bool:
        """Whether nothing speaks against the board."""
        return not self.reasons

    @property
    def rescue(self) -> Text:
        """What would make a board serve that one thing alone speaks against; else empty."""
        return self.reasons[0].help if len(self.reasons) == 1 else ""


def peak_current_a(board: Board, seconds: float) -> float:
    """Most current in A that a board passes for ``seconds`` without tripping.

    A stage trips where its current is exceeded for its delay; the lowest stage whose delay the
    peak reaches sets the limit, else the next (methods 12).
    """
    reached = [stage.current_a for stage in board.stages if seconds >= stage.delay_s]
    return min(reached) if reached else board.stages[-1].current_a


def switch_heat_w(board: Board, current_a: float) -> float:
    """Heat in W in a board's switches at a current."""
    return current_a**2 * board.resistance_ohm


def switch_rise_k(board: Board, current_a: float) -> float:
    """Rise in K of a board's switches over the air; 12 K/W where its sheet is silent."""
    return switch_heat_w(board, current_a) * (board.cooling_k_per_w or BARE_BOARD_K_PER_W)


def bleed_hours(board: Board, group_ah: float) -> float:
    """Hours in which a board evens out a drift of 2 % of a group's capacity."""
    return DRIFT * group_ah / board.balance_a if board.balance_a else float("inf")


def wants_one_port(need: Need) -> bool:
    """Whether the equipment asks for one port: an old pack with two contacts does."""
    return need.kind == "tool" and need.contacts == 2


def judge(board: Board, setting: BoardSetting) -> BoardVerdict:
    """Judge one board; all reasons are collected, but of one for another pack no more than that."""
    reasons = tuple(_fits(board, setting))
    remarks: tuple[Point, ...] = ()
    if _for_pack(board, setting):
        reasons += (*_carries(board, setting), *_schools(board, setting))
        remarks = tuple(_remarks(board, setting))
    draw = setting.draw
    return BoardVerdict(
        board,
        reasons,
        remarks,
        peak_current_a(board, draw.peak_s),
        board.continuous_a / draw.continuous_a - 1.0,
    )


@lru_cache(maxsize=512)
def _other_pack(series: int, family: str, pack_series: int, pack_family: str) -> tuple[Point, ...]:
    """What speaks against a board for another series count or chemistry; most boards are."""
    found = []
    if series != pack_series:
        found.append(
            Point(
                "series",
                phrase("is for {} in series; the pack has {}", series, pack_series),
                phrase("Take a BMS for {} in series.", pack_series),
            )
        )
    if family != pack_family:
        found.append(
            Point(
                "family",
                phrase(
                    "is for {} cells; these are {}", FAMILY_NAMES[family], FAMILY_NAMES[pack_family]
                ),
                phrase("Take a BMS for {} cells.", FAMILY_NAMES[pack_family]),
            )
        )
    return tuple(found)


def _fits(board: Board, setting: BoardSetting) -> Iterator[Point]:
    yield from _other_pack(board.series, board.family, setting.series, setting.family)
    cell = setting.cell
    fixed = board.family == setting.family and not board.adjustable
    if fixed and board.over_voltage_v > cell.voltage_full_v + OVER_VOLTAGE_HARM_V + 1e-9:
        yield Point(
            "over-voltage",
            phrase(
                "cuts charging at {} a cell, more than {} over its full {}",
                say(board.over_voltage_v, "V"),
                say(OVER_VOLTAGE_HARM_V, "V"),
                say(cell.voltage_full_v, "V"),
            ),
            phrase(
                "A BMS that cuts at {}, or one that can be set.",
                say(cell.voltage_full_v + 0.05, "V"),
            ),
        )
    if fixed and board.protects and board.under_voltage_v < cell.voltage_empty_v - 1e-9:
        yield Point(
            "under-voltage",
            phrase(
                "cuts off at {} a cell, under its empty {}",
                say(board.under_voltage_v, "V"),
                say(cell.voltage_empty_v, "V"),
            ),
            "A BMS that cuts off at the empty voltage or over it, or one that can be set.",
        )
    if board.kind in ("charger", "balancer"):
        yield Point(
            "kind",
            phrase("{}: {}", KIND_NAMES[board.kind], KIND_LOSSES[board.kind]),
            "Use it beside a BMS that protects.",
        )


def _carries(board: Board, setting: BoardSetting) -> Iterator[Point]:
    """What of the load a board does not carry. It is long, for each way has its words."""
    draw = setting.draw
    if board.continuous_a < draw.continuous_a - 1e-9:
        yield Point(
            "continuous",
            phrase(
                "{} continuous; the load draws {}",
                say(board.continuous_a, "A"),
                say(draw.continuous_a, "A"),
            ),
            phrase("It would serve a load of up to {}.", say(board.continuous_a, "A")),
        )
    peak = peak_current_a(board, draw.peak_s)
    if peak < draw.peak_a - 1e-9:
        delays = [item.delay_s for item in board.stages if item.current_a < draw.peak_a - 1e-9]
        shorter = phrase(", or peaks under {}", say_delay(min(delays))) if delays else ""
        yield Point(
            "peak",
            phrase(
                "trips at {}; the peak is {} for {}",
                say(peak, "A"),
                say(draw.peak_a, "A"),
                say(draw.peak_s, "s"),
            ),
            phrase("It would pass peaks of up to {}{}.", say(peak, "A"), shorter),
        )
    else:
        yield from _profile(board, draw)
    for stage in board.stages:
        start = draw.start_after_a(stage.delay_s)
        if start > stage.current_a + 1e-9:
            yield Point(
                "start",
                phrase(
                    "trips on the start: after {} the motor still draws {}, it opens over {}",
                    say_delay(stage.delay_s),
                    say(start, "A"),
                    say(stage.current_a, "A"),
                ),
                "A surge thermistor or a soft start that limits the surge.",
            )
            break
    if board.charge_a < setting.charge_a - 1e-9:
        yield Point(
            "charge",
            phrase(
                "charges at {}; the charger gives {}",
                say(board.charge_a, "A"),
                say(setting.charge_a, "A"),
            ),
            phrase("A charger of up to {}.", say(board.charge_a, "A")),
        )
    if board.ports == 2 and setting.one_port:
        yield Point(
            "ports",
            "has a separate charge port; the equipment has two contacts",
            "A third contact of its own for the charger.",
        )
    elif board.ports == 2 and setting.protection.feeds:
        yield Point(
            "feeds",
            "has a separate charge port, which guards nothing while the pack feeds others there",
            "Feed them from the discharge port.",
        )


def _profile(board: Board, draw: Draw) -> Iterator[Point]:
    """A level of the duty under its peak that lasts longer than a stage lets it."""
    for stage in board.stages:
        over = [
            (level, span)
            for level, span in draw.levels
            if level > stage.current_a + 1e-9 and span >= stage.delay_s
        ]
        if over:
            level, span = max(over)
            yield Point(
                "profile",
                phrase(
                    "trips in the duty: {} for {}, it opens over {} after {}",
                    say(level, "A"),
                    say(span, "s"),
                    say(stage.current_a, "A"),
                    say_delay(stage.delay_s),
                ),
                phrase("It would pass that level for less than {}.", say_delay(stage.delay_s)),
            )
            return


def _schools(board: Board, setting: BoardSetting) -> Iterator[Point]:
    if setting.protection.balancing == "must" and board.balance_a == 0.0:
        yield Point(
            "balance",
            "does not balance; groups would drift apart unseen",
            "Matched cells that are rechecked, or a balancer beside it; then say so above.",
        )
    if setting.protection.sensor and board.sensors == 0:
        yield Point(
            "sensor",
            "has no temperature sensor",
            "Say above that none is needed, where nobody charges in the cold or in the sun.",
        )

    if setting.protection.telemetry and board.telemetry == "none":
        yield Point(
            "telemetry",
            "tells nothing of its state",
            "Say above that it need not, and check the groups with a meter.",
        )


def _remarks(board: Board, setting: BoardSetting) -> Iterator[Point]:
    cell, draw = setting.cell, setting.draw
    yield from _release_remarks(board, cell)
    days = rest_days(board, cell.capacity_typical_ah * setting.parallel, setting.rest)
    if days < setting.rest.days:
        yield Point(
            "drain",
            phrase(
                "draws {} on standby: stored at {}, that alone empties the pack in {} days",
                say(board.quiescent_a * 1000.0, "mA"),
                say(setting.rest.charge, "%"),
                digits(days, ".0f"),
            ),
        )
    if board.balance_a == 0.0:
        yield Point("balance", "no balancing: groups must be matched and rechecked")
    else:
        group_ah = cell.capacity_typical_ah * setting.parallel
        hours = bleed_hours(board, group_ah)
        if hours > LONGEST_BLEED_H:
            yield Point(
                "bleed",
                phrase(
                    "bleeds {}: {} h at the top of the charge for a drift of 2 % of {}",
                    say(board.balance_a * 1000, "mA"),
                    digits(hours, ".0f"),
                    say(group_ah, "Ah"),
                ),
            )
    if board.sensors == 0:
        yield Point("sensor", "no sensor: nothing stops a hot or frozen charge")
    rise = switch_rise_k(board, draw.continuous_a)
    if rise > SWITCH_RISE_K:
        yield Point(
            "heat",
            phrase(
                "its switches give off {} and rise about {}: give them a sheet of metal and air",
                say(switch_heat_w(board, draw.continuous_a), "W"),
                say(rise, "K"),
            ),
        )
    if board.wakes in ("charger", "button"):
        yield Point(
            "wake", phrase("after a trip it wakes {}, not by itself", WAKE_WORDS[board.wakes])
        )


def _release_remarks(board: Board, cell: Cell) -> Iterator[Point]:
    """Release points of a board that do not suit the cell."""
    over, under = board.over_voltage_release_v, board.under_voltage_release_v
    if over is not None and over > cell.voltage_full_v + 1e-9:
        yield Point(
            "over-release",
            phrase(
                "lets a charge go on again at {} a cell; this cell is full at {}",
                say(over, "V"),
                say(cell.voltage_full_v, "V"),
            ),
        )
    if under is not None and under < cell.voltage_empty_v + CHATTER_V - 1e-9:
        yield Point(
            "under-release",
            phrase(
                "closes again at {} a cell, where the voltage of an empty one comes back by "
                "itself: it would open and close in turn",
                say(under, "V"),
            ),
        )


def rest_days(board: Board, group_ah: float, rest: Rest) -> float:
    """Days in which a board alone empties a pack put away at rest."""
    if board.quiescent_a <= 0.0:
        return float("inf")
    return rest.charge * group_ah / board.quiescent_a / 24.0


def verdicts(boards: Iterable[Board], setting: BoardSetting) -> tuple[BoardVerdict, ...]:
    """Boards judged: those that serve first, the recommended one at the head.

    Order: nothing against it; nothing to remark; a fifth to spare; price. Among the refused those
    for this pack come first, then the fewer reasons.
    """

    def order(verdict: BoardVerdict) -> tuple[bool, int, int, bool, float]:
        return (
            not _for_pack(verdict.board, setting),
            len(verdict.reasons),
            len(verdict.remarks),
            verdict.headroom < MARGIN - 1.0,
            verdict.board.price,
        )

    return tuple(sorted((judge(board, setting) for board in boards), key=order))


def _for_pack(board: Board, setting: BoardSetting) -> bool:
    """Whether a board is made for the count and the chemistry of the pack."""
    return board.series == setting.series and board.family == setting.family


class BoardChoice(Struct, frozen=True, eq=False, dict=True):
    """The boards for a pack judged, and the one in force; ``None`` is none.

    ``own`` are those for its count and chemistry, the recommended one at the head.
    """

    boards: Mapping[str, Board]
    setting: BoardSetting
    own: tuple[BoardVerdict, ...]
    verdict: BoardVerdict | None

    @property
    def board(self) -> Board | None:
        """The board in force; ``None`` where there is none."""
        return None if self.verdict is None else self.verdict.board

    @cached_property
    def verdicts(self) -> tuple[BoardVerdict, ...]:
        """All boards judged; those for other packs, at the end, when they are first looked at."""
        others = (item for item in self.boards.values() if not _for_pack(item, self.setting))
        return self.own + verdicts(others, self.setting)

    @cached_property
    def others(self) -> Text:
        """How many boards are for other counts, and for other cells, in words."""
        count = sum(item.series != self.setting.series for item in self.boards.values())
        cells = len(self.boards) - len(self.own) - count
        told = [phrase("{} for other counts", count)] if count else []
        return listed([*told, phrase("{} for other cells", cells)] if cells else told)

    @property
    def first(self) -> BoardVerdict | None:
        """The recommended board, or the one nearest to serving."""
        return next(iter(self.own or self.verdicts), None)


def board_choice(
    boards: Mapping[str, Board], picked: str | None, setting: BoardSetting, specified: Board
) -> BoardChoice:
    """Judge the boards; the one ``picked`` by its id is in force, else the recommended one.

    Where none serves, it is one as ``specified``.
    """
    own = verdicts((item for item in boards.values() if _for_pack(item, setting)), setting)
    named = boards.get(picked or "")
    if named is not None:
        return BoardChoice(boards, setting, own, judge(named, setting))
    if own and own[0].serves and picked != AS_SPECIFIED_ID:
        return BoardChoice(boards, setting, own, own[0])
    return BoardChoice(boards, setting, own, judge(specified, setting))
