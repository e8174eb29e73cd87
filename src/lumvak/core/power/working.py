"""How the numbers of the power views came about, worked out when they are asked for."""

from __future__ import annotations

import math
from collections.abc import Mapping

from lumvak.core.catalogue.boards import Board
from lumvak.core.figures.figure import Figure, Rule, computed, of_part, sheet
from lumvak.core.power.motor_start import StartRun
from lumvak.core.power.opening_order import Curve, Pair
from lumvak.core.power.power_path import Power
from lumvak.core.said import capital, phrase, say_about, say_delay
from lumvak.core.time_current import at_time

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
SUSTAINED_A = Rule("{}.sustained_a", "Drawn for {} without a break", "A",
                   "the {} pull run step by step: a resistance and a back-EMF that grows",
                   "methods 23")
SPARE_A = Rule("{}.spare_a", "Margin of a {} pull", "A",
               "current of the level − what is drawn for its delay", "methods 23")
MARGIN_A = Rule("order.{}.{}.margin_a", "{}, before {}", "A",
                "least of the second − most of the first, where they are closest: {}; no more "
                "flows than short-circuit current", "methods 22")
# fmt: on

# The rule of each curve, and the figures of the evaluation that it is made from.
CURVE_RULES: dict[str, tuple[str, tuple[str, ...]]] = {
    "load": ("the most that is drawn for so long: continuous, peak, duty and start",
             ("demand.load", "need.peak_current_a", "need.peak_duration_s", "start.current_a")),
    "surge": ("what a standing motor draws, falling as it runs up",
              ("start.current_a", "start.spin_up_s")),
    "stage": ("its current, once its delay is over", ("board.continuous_a",)),
    "board": ("the lowest level whose delay is over by then", ("board.continuous_a",)),
    "fuse": ("its melting band at that time, straight in log-log",
             ("power.fuse_a", "power.fuse_hold_a", "need.ambient_c")),
    "link": ("I² = I∞² + K² ÷ t of a copper link, times the cells in parallel",
             ("joints.link_a", "pack.parallel", "network.cell_excess")),
    "cells": ("warms the busiest cell to 80 °C in that time",
              ("cell.resistance_ohm", "pack.parallel", "need.ambient_c", "network.cell_excess")),
    "series-joints": ("warms the busiest strip as far as strips stand for that long",
                      ("network.series_limit_a", "joints.series.rise_k")),
    "group-joints": ("warms the busiest strip as far as strips stand for that long",
                     ("network.group_limit_a", "joints.group.rise_k")),
    "leads": ("warms the copper to what its insulation stands for that long",
              ("leads.area_mm2", "leads.outer_mm", "leads.insulation_c", "need.ambient_c")),
    "connector": ("√2 × what it carries for that long", ("power.connector_a",)),
    "switch": ("√2 × what it carries for that long", ("power.switch_a",)),
}  # fmt: skip


def curve_figure(
    curve: Curve,
    seconds: float,
    high: bool,
    board: Board | None,
    figures: Mapping[str, Figure],
    current: Figure,
) -> Figure:
    """What a curve is at a time, with the rule that made it.

    ``figures`` are those of the evaluation, ``board`` the one in force as it is set, ``current``
    what is drawn for good.
    """
    rule, keys = CURVE_RULES["stage" if curve.kind == "stage" else curve.key]
    amps = at_time(curve.high_a if high else curve.low_a, seconds)
    inputs = [figures[key] for key in keys if key in figures]
    if curve.kind in ("board", "stage") and board is not None:
        inputs += [
            of_part(
                f"order.board.stage_{place}_a",
                phrase("Stage of {}", say_delay(stage.delay_s)),
                board,
                "stages",
                "A",
                stage.current_a,
            )
            for place, stage in enumerate(board.stages, 1)
        ]
    if curve.kind == "load":
        inputs.append(current)
    return computed(
        f"order.{curve.key}.{'most' if high else 'least'}_{seconds:.3g}_s_a",
        phrase("{} at {}", capital(curve.name), say_about(seconds)),
        amps if math.isfinite(amps) else None,
        "A",
        rule,
        "methods 22",
        *inputs,
    )


def pair_figure(pair: Pair, power: Power, figures: Mapping[str, Figure], current: Figure) -> Figure:
    """How far a pair of curves is apart, where that is least; see ``curve_figure``."""
    curves = {curve.key: curve for curve in power.curves}
    first, second = (
        curve_figure(curves[key], pair.at_s, high, power.board, figures, current)
        for key, high in ((pair.first, True), (pair.second, False))
    )
    return MARGIN_A.of(
        pair.margin_a if math.isfinite(pair.margin_a) else None,
        second,
        first,
        power.short_a,
        key=(pair.first, pair.second),
        label=(first.label, pair.names[1]),
        rule=pair.why,
    )


def start_figure(pull: str, run: StartRun, figures: Mapping[str, Figure]) -> Figure | None:
    """What a start has to spare at the stage that is nearest to open; ``None`` without a board."""
    worst = run.worst
    if worst is None:
        return None
    part = run.case.surge
    key = f"start.{pull}.{'bare' if part is None else part.id}"
    known = [
        figures[name]
        for name in ("start.current_a", "start.spin_up_s", "power.short_a", "leads.resistance_ohm")
        if name in figures
    ]
    if part is not None:
        known.append(sheet(f"{key}.surge_ohm", "Surge part at 25 °C", part.ohm, "ohm", part.name))
    sustained = SUSTAINED_A.of(
        worst.sustained_a, *known, key=key, label=say_delay(worst.stage.delay_s), rule=pull
    )
    stage = sheet(
        f"{key}.stage_a",
        phrase("Stage of {}", say_delay(worst.stage.delay_s)),
        worst.stage.current_a,
        "A",
        "the BMS in force",
    )
    return SPARE_A.of(worst.spare_a, stage, sustained, key=key, label=pull)
