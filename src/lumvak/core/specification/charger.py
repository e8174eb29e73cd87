"""What to look for in a charger (methods 41): methods 33 as windows."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.charger import LEAST_FULL, TOLERANCE
from lumvak.core.charging.highest import highest_of
from lumvak.core.charging.reasons import SWITCHES_OVER
from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by, named

CHARGER = Maker("charger")
# Kinds that hold a voltage; one for nickel does not.
KINDS = ("cccv", "supply", "lead")


def charger_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of a charger for the pack of an evaluation."""
    return PartSpec("charger", tuple(_windows(evaluation)))


def _windows(evaluation: Evaluation) -> Iterator[FigureWindow]:
    setting, right = evaluation.charging.setting, evaluation.charging.right
    volts = right.volts
    yield CHARGER.window(
        "kind",
        "Kind",
        one_of=KINDS,
        set_by="lithium cells",
        reason="CC-CV best; one for nickel holds no voltage, one for lead wants its stages off",
    )
    yield CHARGER.window(
        "volts",
        "Ends at",
        "V",
        least=by(setting.present_v(LEAST_FULL), "OCV of the pack at three quarters", volts),
        most=by((1.0 + TOLERANCE) * volts.number, "charge voltage and 0.5 %", volts),
        wanted=by(volts.number, "in series × charge voltage of a cell", volts),
        set_by="charge voltage",
        reason="measure it with nothing connected; lower is gentle and gives charge away",
    )
    limits = (setting.most_cells, *setting.limits)
    most = min(limits, key=lambda item: item.number)
    yield CHARGER.window(
        "amps",
        "Charge current",
        "A",
        most=by(most.number, "the least of what cells, BMS, leads, fuse and socket bear", *limits),
        wanted=by(right.amps.number, "standard current, where all bear it", right.amps),
        set_by=right.said,
        reason="less is gentle and slow",
    )
    board = setting.board
    stands = None
    if board is not None:
        value = board.switch_v or SWITCHES_OVER * board.series * board.over_voltage_v
        stands = by(value, "what the switches of the BMS stand", evaluation.sized.pack.full)
    yield CHARGER.window(
        "open_v",
        "Shows with nothing connected",
        "V",
        most=stands,
        set_by="" if stands is None else "switches of the BMS",
        reason="they fail closed over that",
    )


def charger_missed(spec: PartSpec, charger: Charger, evaluation: Evaluation) -> tuple[str, ...]:
    """Fields of a charger that lie outside the windows that must hold."""
    setting = evaluation.charging.setting
    # What it rises to must not be too much, what it ends at not too little.
    highest = max(highest_of(charger, setting.celsius).volts, charger.volts)
    too_high = highest > spec.of("volts").bounds[1]
    given: dict[str, float | str] = {
        "kind": charger.kind,
        "volts": highest if too_high else charger.volts,
        "amps": charger.amps / (1.0 + TOLERANCE),
        "open_v": max(charger.open_v or 0.0, charger.volts),
    }
    return named(spec.windows, given)
