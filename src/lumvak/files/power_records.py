"""The power path as plain records: for JSON, CSV and whoever prints them."""

from __future__ import annotations

import math
from typing import Any

from lumvak.core.bms.settings import SettingRow
from lumvak.core.evaluation import Evaluation, path_in_hand
from lumvak.core.power.opening_order import time_ratio
from lumvak.core.power.place import Place
from lumvak.core.rating.chain import RATED_FOR_S, rating
from lumvak.core.rating.upgrades import upgrades
from lumvak.core.said import Text, phrase
from lumvak.core.spelling import PLAIN, Spelling, spoken


def finite(value: float) -> float | None:
    """A number as JSON takes it: no limit is null."""
    return value if math.isfinite(value) else None


def _problem(row: SettingRow) -> Text:
    return phrase("{}; accepted: {}", row.problem, row.accepts) if row.problem else ""


def settings_rows(evaluation: Evaluation, spelling: Spelling = PLAIN) -> list[dict[str, Any]]:
    """The settings sheet of the board in force, a record a setting."""
    return [
        {
            "setting": row.key,
            "name": row.name,
            "value": row.value,
            "unit": row.unit,
            "release": row.release,
            "delay_s": row.delay_s,
            "wanted": row.wanted,
            "origin": row.origin,
            "reason": spoken(row.reason, spelling),
            "problem": spoken(_problem(row), spelling) or None,
        }
        for row in evaluation.power.settings
    ]


def place_rows(evaluation: Evaluation, spelling: Spelling = PLAIN) -> list[dict[str, Any]]:
    """Every place of the path with the part in it, what speaks against it, and its price."""
    power = evaluation.power
    places: tuple[tuple[str, Place[Any]], ...] = (
        ("main fuse", power.fuse),
        ("charge fuse", power.charge_fuse),
        ("connector", power.connector),
        ("switch", power.switch),
        ("surge thermistor", power.surge),
        ("precharge", power.precharge),
    )
    return [
        {
            "place": name,
            "part": None if place.part is None else place.part.id,
            "name": None if place.part is None else place.part.name,
            "automatic": place.automatic,
            "price": None if place.part is None else place.part.price,
            "against": []
            if place.chosen is None
            else [
                {"code": point.code, "text": spoken(point.text, spelling)}
                for point in place.chosen.reasons
            ],
        }
        for name, place in places
    ]


def pair_rows(evaluation: Evaluation) -> list[dict[str, Any]]:
    """Every pair of curves that must be in order."""
    curves = {curve.key: curve for curve in evaluation.power.curves}
    short_a = evaluation.power.short_a.number
    return [
        {
            "first": pair.first,
            "second": pair.second,
            "holds": pair.holds,
            "margin_a": finite(pair.margin_a),
            "margin": finite(pair.margin),
            "at_s": pair.at_s,
            "time_ratio": finite(time_ratio(curves[pair.first], curves[pair.second], short_a)),
            "fails_s": [list(stretch) for stretch in pair.fails_s],
        }
        for pair in evaluation.power.pairs
    ]


def start_rows(evaluation: Evaluation) -> list[dict[str, Any]]:
    """A fast and a slow pull, without and with a surge part: trips or not, and by how much."""
    rows = []
    for pull in ("fast", "slow"):
        for with_surge in (False, True):
            run = evaluation.power.start_of(pull, with_surge)
            if run is None:
                continue
            worst = run.worst
            rows.append(
                {
                    "pull": pull,
                    "surge": None if run.case.surge is None else run.case.surge.id,
                    "peak_a": run.peak_a,
                    "trips_s": run.trip_s,
                    "spare_a": None if worst is None else worst.spare_a,
                    "stage_a": None if worst is None else worst.stage.current_a,
                    "stage_s": None if worst is None else worst.stage.delay_s,
                }
            )
    return rows


def rating_rows(evaluation: Evaluation) -> list[dict[str, Any]]:
    """What the whole path gives for good, for 10 s and for 1 s, and what sets each."""
    found = [rating(evaluation.path.links, seconds) for seconds in RATED_FOR_S]
    return [
        {"seconds": item.seconds, "current_a": item.current_a, "link": item.link.key}
        for item in found
        if item is not None
    ]


def upgrade_rows(evaluation: Evaluation) -> list[dict[str, Any]]:
    """The next upgrades, each with what it buys and costs."""
    return [
        {
            "link": step.link,
            "what": step.what,
            "from_a": step.from_a,
            "to_a": step.to_a,
            "cost": step.cost,
        }
        for step in upgrades(path_in_hand(evaluation))
    ]


def power_json(evaluation: Evaluation) -> dict[str, Any]:
    """The power path of an evaluation as plain JSON."""
    power = evaluation.power
    return {
        "board": None if power.board is None else power.board.id,
        "adjustable": power.board is not None and power.board.adjustable,
        "short_circuit_a": power.short_a.value,
        "settings": settings_rows(evaluation),
        "parts": place_rows(evaluation),
        "order": pair_rows(evaluation),
        "starts": start_rows(evaluation),
        "rating": rating_rows(evaluation),
        "upgrades": upgrade_rows(evaluation),
        "rest": {
            "cut_days": power.shelf.cut_days.value,
            "harm_days": power.shelf.harm_days.value,
        },
    }
