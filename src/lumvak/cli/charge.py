"""``lumvak charge``: the charger for a pack, a verdict on one in hand, and the time to full."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any, get_args

from pydantic import ValidationError

from lumvak.cli.batch import run_batch, usual_options
from lumvak.cli.evaluate import read_evaluation
from lumvak.cli.table import json_text, table
from lumvak.core.catalogue.chargers import Charger, ChargerKind
from lumvak.core.charging.to_full import ENDED_WORDS
from lumvak.core.charging.verdict import verdict_on
from lumvak.core.charging_in_hand import charge_in_hand
from lumvak.core.evaluation import Evaluation
from lumvak.core.units import CURRENT, FRACTION, VOLTAGE, QuantityError, parse, say, say_hours

KINDS: tuple[ChargerKind, ...] = get_args(ChargerKind)


class ChargeError(ValueError):
    """A charger or a beginning that cannot be meant so."""


def charger_of(text: str) -> Charger:
    """A charger from ``54.6V:2A:lead``; raises ChargeError naming what would be accepted."""
    volts, _, rest = text.partition(":")
    amps, _, kind = rest.partition(":")
    kind = kind.strip().lower() or "cccv"
    if kind not in KINDS:
        raise ChargeError(f"charger: “{kind[:40]}” is no kind; accepted: {', '.join(KINDS)}")
    if not amps:
        raise ChargeError(f"charger: “{text[:40]}” has no amps; accepted: such as 54.6V:2A:cccv")
    try:
        return Charger(
            id="asked", name="asked for", kind=kind, volts=parse(volts, VOLTAGE),
            amps=parse(amps, CURRENT),
        )  # fmt: skip
    except QuantityError as problem:
        raise ChargeError(f"charger: {problem}") from problem
    except ValidationError as problem:
        raise ChargeError(
            f"charger: “{text[:40]}”; accepted: over 0, up to 1000 V and 1000 A"
        ) from problem


def share_of(text: str) -> float:
    """A charge from ``20%``; raises ChargeError."""
    try:
        share = parse(text, FRACTION)
    except QuantityError as problem:
        raise ChargeError(f"from: {problem}") from problem
    if not 0.0 <= share < 1.0:
        raise ChargeError(f"from: {text[:40]} is no charge to begin at; accepted: 0 % to 99 %")
    return share


def charge_records(
    seen: Evaluation, charger: Charger | None, share: float | None
) -> dict[str, Any]:
    """The charger to take, the verdict and the time to full as plain records; raises ChargeError.

    ``charger`` is ``None`` for the one in force, ``share`` for where the project begins.
    """
    topic = seen.charging
    if topic.window_problem:
        raise ChargeError(topic.window_problem)
    asked = topic.charger if charger is None else charger
    verdict = topic.verdict if charger is None else verdict_on(charger, topic.setting)
    begin = seen.project.charging.start if share is None else share
    present_v = topic.setting.present_v(begin)
    if asked.kind != "nickel" and asked.volts <= present_v:
        raise ChargeError(
            f"a charger of {say(asked.volts, 'V')} gives nothing to a pack that stands at "
            f"{say(present_v, 'V')}; accepted: over that, {say(topic.right.volts.number, 'V')} is "
            "right"
        )
    found = charge_in_hand(seen, asked, begin)
    return {
        "charger": {
            "volts": round(topic.right.volts.number, 6), "amps": round(topic.right.amps.number, 6),
            "set_by": topic.right.said, "end_current_a": round(topic.right.end.number, 6),
        },
        "in_hand": {"name": asked.name, "kind": asked.kind, "volts": asked.volts,
                    "amps": asked.amps},
        "verdict": {
            "kind": verdict.kind, "words": verdict.words,
            "stops_at_percent": round(100.0 * min(found.stops_share, 1.0), 3),
            "reasons": [{"kind": item.kind, "code": item.code, "text": item.text}
                        for item in verdict.reasons],
            "at_end": verdict.at_end, "if_the_board_fails": verdict.board_fails,
            "instead": verdict.instead or None,
        },
        "from_percent": round(100.0 * begin, 3),
        "hours": round(found.hours, 5),
        "phases": [{"name": part.name, "hours": round(part.hours, 5), "ah": round(part.ah, 5)}
                   for part in found.parts],
        "ended_by": found.ended_by,
        "ah": round(found.ah, 5), "wh": round(found.wh, 4),
        "efficiency": round(found.efficiency, 5), "first_group": found.first,
        "group_stops_percent": [round(100.0 * item, 2) for item in found.group_share.tolist()],
        "warmest_c": round(float(found.celsius.max()), 2),
    }  # fmt: skip


def run_charge(arguments: Sequence[str]) -> int:
    """Print a charger's verdict and the time to full; 0 when done, 2 where something is no good."""
    parser = argparse.ArgumentParser(
        prog="lumvak charge",
        description="The charger for a pack, a verdict on one in hand, and the time to full.",
    )
    parser.add_argument("file", nargs="?", type=Path, help="a project file (.lumvak.json)")
    parser.add_argument("--charger", help=f"volts:amps:kind, such as 54.6V:2A; {', '.join(KINDS)}")
    parser.add_argument("--from", dest="begin", help="how full it is, such as 20%%")
    usual_options(parser, batch=True)
    chosen = parser.parse_args(arguments)
    if chosen.file is None and not chosen.batch:
        parser.error("a project is wanted")
    seen = None
    if chosen.file is not None:
        seen = read_evaluation("lumvak charge", chosen.file, chosen.catalogue)
        if seen is None:
            return 2
    if chosen.batch:
        return _batch(seen, chosen.catalogue)
    assert seen is not None
    try:
        charger = None if chosen.charger is None else charger_of(chosen.charger)
        share = None if chosen.begin is None else share_of(chosen.begin)
        found = charge_records(seen, charger, share)
    except ChargeError as problem:
        print(f"lumvak charge: {problem}", file=sys.stderr)
        return 2
    print(json_text(found) if chosen.json else _text(found))
    return 0


def _text(found: dict[str, Any]) -> str:
    right, verdict = found["charger"], found["verdict"]
    lines = [
        f"Charge with {say(right['volts'], 'V')} and up to {say(right['amps'], 'A')} "
        f"({right['set_by']}); off under {say(right['end_current_a'], 'A')}.",
        f"{found['in_hand']['name']}, {say(found['in_hand']['volts'], 'V')} "
        f"{say(found['in_hand']['amps'], 'A')} {found['in_hand']['kind']}: {verdict['words']}",
        verdict["at_end"], verdict["if_the_board_fails"],
        *([verdict["instead"]] if verdict["instead"] else []),
        "",
        table(
            ("phase", "time", "charge"),
            [(part["name"], say_hours(part["hours"]), say(part["ah"], "Ah"))
             for part in found["phases"]],
        ),
        f"{say_hours(found['hours'])} from {say(found['from_percent'] / 100.0, '%')} to "
        f"{say(verdict['stops_at_percent'] / 100.0, '%')}; ended by "
        f"{ENDED_WORDS[found['ended_by']]}.",
    ]  # fmt: skip
    return "\n".join(lines)


def _batch(given: Evaluation | None, catalogues: Sequence[Path]) -> int:
    """A line of JSON each: ``file`` where none was named, ``charger`` and ``from``."""
    known = dict[str, Evaluation]()

    def one(case: Any) -> dict[str, Any]:
        seen = given
        if seen is None or "file" in case:
            name = str(case["file"])
            if name not in known:
                read = read_evaluation("lumvak charge", Path(name), catalogues)
                if read is None:
                    raise ChargeError(f"“{name[:60]}” cannot be read")
                known[name] = read
            seen = known[name]
        charger = charger_of(str(case["charger"])) if case.get("charger") else None
        share = share_of(str(case["from"])) if case.get("from") is not None else None
        return charge_records(seen, charger, share)

    return run_batch(one, '{"file": "…", "charger": "54.6V:2A:cccv", "from": "20%"}')
