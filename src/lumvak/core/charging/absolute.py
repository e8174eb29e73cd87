"""The limits that end a charge before anything else is looked at: in the log, and before it begins.

What passes one of them is a stop, whatever a band or a plan says (methods 38).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from msgspec import Struct

from lumvak.core.cells.recovery import recovery_v
from lumvak.core.charging.charger import TOLERANCE, ChargeSetting
from lumvak.core.document.charging import LogRow
from lumvak.core.said import Text, phrase, say

# What is done first of all, in this order.
FIRST = (
    "Charger off at the mains side or its switch; then unplug it from the pack. Attend the pack "
    "where it can do no harm."
)
NEVER = (
    "Never charge it again: take its cells out, and hand them in. A charged-up cell of this kind "
    "shorts inside, later."
)
# Amps so far over what cells take are no matter of reading.
AMPS_OVER = 0.02


class LimitPassed(Struct, frozen=True):
    """A limit that was passed: a code, what is told, what it means, and what to do."""

    code: str
    text: Text
    means: Text
    do: Text = FIRST


class Limits(Struct, frozen=True):
    """What must not be passed: V of a group and of the pack, degC, A, and V of a dead group."""

    group_v: float
    group_by: str
    pack_v: float
    least_c: float
    most_c: float
    most_a: float
    dead_v: float


def limits_of(setting: ChargeSetting) -> Limits:
    """The absolute limits of a pack that is charged."""
    cell = setting.cell
    full, board = cell.voltage_full_v * (1.0 + TOLERANCE), setting.over_v
    by_board = board is not None and board < full
    return Limits(
        board if by_board and board is not None else full,
        "the BMS’s over-voltage point" if by_board else "full",
        pack_v=setting.series * setting.ceiling_v * (1.0 + TOLERANCE),
        least_c=cell.charge_min_c,
        most_c=cell.charge_max_c,
        most_a=setting.most_cells.number,
        dead_v=recovery_v(cell, setting.family),
    )


def passed(limits: Limits, row: LogRow, amps: float) -> Iterator[LimitPassed]:
    """What a reading passes, the worst first; ``amps`` flow where the row does not say."""
    if row.groups:
        high, low = max(row.groups), min(row.groups)
        if high > limits.group_v + 1e-9:
            yield LimitPassed(
                "group-over",
                phrase(
                    "group {} at {}, over {}",
                    row.groups.index(high) + 1,
                    say(high, "V"),
                    limits.group_by,
                ),
                "The BMS should have cut off. It vents, and burns.",
            )
        yield from dead(limits, row.groups)
        if low <= 0.0:
            return
    if row.volts > limits.pack_v + 1e-9:
        yield LimitPassed(
            "pack-over",
            phrase("the pack at {}, over {}", say(row.volts, "V"), say(limits.pack_v, "V")),
            "The charger is set too high, or is not the one it is taken for.",
        )
    if row.warm_c is not None and row.warm_c > limits.most_c:
        yield LimitPassed(
            "hot",
            phrase("{}, over {}", say(row.warm_c, "°C"), say(limits.most_c, "°C")),
            "A cell, a joint or the air around it: warmth makes warmth from here on.",
        )
    if row.warm_c is not None and row.warm_c < limits.least_c and amps > 0.0:
        yield LimitPassed(
            "cold",
            phrase("charged at {}, under {}", say(row.warm_c, "°C"), say(limits.least_c, "°C")),
            "Metal plates out inside the cells, permanently.",
        )
    if amps > limits.most_a * (1.0 + AMPS_OVER):
        yield LimitPassed(
            "amps-over",
            phrase("{}, over the {} that the cells take", say(amps, "A"), say(limits.most_a, "A")),
            "Metal plates out inside the cells, and they warm.",
        )


def dead(limits: Limits, volts: Sequence[float | None]) -> Iterator[LimitPassed]:
    """Groups at rest, (n,) V or unknown, that are under what a cell may be charged from."""
    for place, value in enumerate(volts, 1):
        if value is not None and value < limits.dead_v:
            yield LimitPassed(
                "group-dead",
                phrase(
                    "group {} at {}, under the {} from which a cell may be charged",
                    place,
                    say(value, "V"),
                    say(limits.dead_v, "V"),
                ),
                "A cell that was so low is harmed inside, or shorted.",
                phrase("{} {}", FIRST, NEVER),
            )


def not_begun(setting: ChargeSetting, rest_v: Sequence[float | None]) -> LimitPassed | None:
    """Why a charge does not, or must not, begin; groups rest at ``rest_v`` (n,) where it is known.

    ``None`` where nothing is in its way.
    """
    limits = limits_of(setting)
    found = next(dead(limits, rest_v), None)
    if found is not None:
        return LimitPassed(found.code, found.text, found.means, NEVER)
    celsius = setting.celsius
    if limits.least_c <= celsius <= limits.most_c:
        return None
    cold = celsius < limits.least_c
    limit = say(limits.least_c if cold else limits.most_c, "°C")
    text = phrase("At {} nothing may go in", say(celsius, "°C"))
    means = (
        phrase(
            "The BMS does not begin under {}." if cold else "The BMS does not begin over {}.",
            limit,
        )
        if setting.senses
        else phrase(
            "It may be charged {} {}, and nothing here feels it.",
            "from" if cold else "up to",
            limit,
        )
    )
    way = "Warm" if cold else "Cool"
    return LimitPassed(
        "cold" if cold else "hot", text, means, phrase("{} the pack to {} first.", way, limit)
    )
