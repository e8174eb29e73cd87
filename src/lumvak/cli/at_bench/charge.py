"""``lumvak charge``: the charger for a pack, a verdict on one in hand, and the time to full."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from typing import Any, get_args

from lumvak.cli.batch import run_batch
from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of, read_evaluation
from lumvak.cli.spelled import say, say_hours
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.core.catalogue.chargers import Charger, ChargerKind
from lumvak.core.charging.to_full import ENDED_WORDS, Charge
from lumvak.core.charging.verdict import verdict_on
from lumvak.core.charging_in_hand import charge_in_hand, log_in_hand, why_not_begun
from lumvak.core.checked import NotAccepted, made
from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import Refused, spoken
from lumvak.core.units import CURRENT, FRACTION, HOURS, VOLTAGE, QuantityError, parse
from lumvak.files.logs.charge_log import read_charge_log
from lumvak.files.problem import FileProblem, read_text

KINDS: tuple[ChargerKind, ...] = get_args(ChargerKind)
# What may be said of a charger besides volts, amps and kind.
QUANTITIES = {
    "open": ("open_v", VOLTAGE), "end": ("end_a", CURRENT), "low": ("low_v", VOLTAGE),
    "timer": ("timer_h", HOURS),
}  # fmt: skip
STAGES = {"equalise": "equalise", "cold": "compensates"}
STAGE_SAID = {"no": "off", "off": "off", "yes": "on", "on": "on", "unknown": "unknown"}


class ChargeError(Refused):
    """A charger or a beginning that cannot be meant so."""


def charger_of(text: str) -> Charger:
    """A charger from ``42V:4A:cccv:open=48V:equalise=no``; raises ChargeError naming what is
    accepted.
    """
    volts, *parts = text.split(":")
    amps, *rest = parts or [""]
    kind = rest.pop(0).strip().lower() if rest and "=" not in rest[0] else ""
    kind = kind or "cccv"
    if kind not in KINDS:
        raise ChargeError(f"charger: “{kind[:40]}” is no kind; accepted: {', '.join(KINDS)}")
    if not amps:
        raise ChargeError(f"charger: “{text[:40]}” has no amps; accepted: such as 54.6V:2A:cccv")
    more = dict(_more(item) for item in rest)
    try:
        return made(
            Charger,
            {
                "id": "asked",
                "name": "asked for",
                "kind": kind,
                "volts": parse(volts, VOLTAGE),
                "amps": parse(amps, CURRENT),
                **more,
            },
        )
    except QuantityError as problem:
        raise ChargeError(f"charger: {problem}") from problem
    except NotAccepted as problem:
        raise ChargeError(
            f"charger: “{text[:40]}”: {spoken(problem.wrongs[0].sentence)}"
        ) from problem


def _more(text: str) -> tuple[str, Any]:
    """One more thing known of a charger, as ``open=48V``."""
    name, equals, value = (part.strip().lower() for part in text.partition("="))
    try:
        if name in STAGES and equals:
            return STAGES[name], STAGE_SAID[value]
        if name in QUANTITIES and equals:
            field, kind = QUANTITIES[name]
            return field, parse(value, kind)
    except KeyError as problem:
        raise ChargeError(
            f"charger: {name}={value[:20]}; accepted: {', '.join(STAGE_SAID)}"
        ) from problem
    except QuantityError as problem:
        raise ChargeError(f"charger: {name}: {problem}") from problem
    known = ", ".join(f"{key}=" for key in (*QUANTITIES, *STAGES))
    raise ChargeError(f"charger: “{text[:40]}”; accepted: {known}")


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
    evaluation: Evaluation, charger: Charger | None, share: float | None
) -> dict[str, Any]:
    """The charger to take, the verdict and the time to full as plain records; raises ChargeError.

    ``charger`` is ``None`` for the one in force, ``share`` for where the project begins.
    """
    topic = evaluation.charging
    if topic.window_problem:
        raise ChargeError(topic.window_problem)
    asked = topic.charger if charger is None else charger
    waits = why_not_begun(evaluation)
    verdict = topic.verdict if charger is None else verdict_on(charger, topic.setting)
    begin = evaluation.project.charging.start if share is None else share
    present_v = topic.setting.present_v(begin)
    if not waits and asked.kind != "nickel" and verdict.highest.volts <= present_v:
        raise ChargeError(
            f"a charger of {say(asked.volts, 'V')} gives nothing to a pack that stands at "
            f"{say(present_v, 'V')}; accepted: over that, {say(topic.right.volts.number, 'V')} is "
            "right"
        )
    found = None if waits else charge_in_hand(evaluation, asked, begin)
    stops = verdict.stops_share if found is None else found.stops_share
    return {
        "charger": {
            "volts": round(topic.right.volts.number, 6),
            "amps": round(topic.right.amps.number, 6),
            "set_by": spoken(topic.right.said),
            "end_current_a": round(topic.right.end.number, 6),
        },
        "in_hand": {
            "name": asked.name,
            "kind": asked.kind,
            "volts": asked.volts,
            "amps": asked.amps,
        },
        "verdict": {
            "kind": verdict.kind,
            "stop": verdict.stop,
            "words": spoken(verdict.words),
            "highest_v": round(verdict.highest.volts, 6),
            "highest_is": verdict.highest.why,
            "stops_at_percent": round(100.0 * min(stops, 1.0), 3),
            "reasons": [
                {"kind": item.kind, "code": item.code, "text": spoken(item.text)}
                for item in verdict.reasons
            ],
            "at_end": spoken(verdict.at_end),
            "if_the_board_fails": spoken(verdict.board_fails),
            "instead": spoken(verdict.instead) or None,
        },
        "from_percent": round(100.0 * begin, 3),
        "not_begun": spoken(waits) or None,
        **_flowed(found),
    }


def _flowed(found: Charge | None) -> dict[str, Any]:
    """A charge over time as plain records; ``None`` in all of them where none begins."""
    if found is None:
        return {
            "hours": None,
            "phases": [],
            "ended_by": None,
            "ah": None,
            "wh": None,
            "efficiency": None,
            "first_group": None,
            "group_stops_percent": [],
            "warmest_c": None,
        }
    return {
        "hours": round(found.hours, 5),
        "phases": [
            {"name": part.name, "hours": round(part.hours, 5), "ah": round(part.ah, 5)}
            for part in found.parts
        ],
        "ended_by": found.ended_by,
        "ah": round(found.ah, 5),
        "wh": round(found.wh, 4),
        "efficiency": round(found.efficiency, 5),
        "first_group": found.first,
        "group_stops_percent": [round(100.0 * item, 2) for item in found.group_share.tolist()],
        "warmest_c": round(float(found.celsius.max()), 2),
    }


def judged_log(evaluation: Evaluation, path: Path) -> dict[str, Any]:
    """A log of a charge judged as plain records; raises FileProblem where it cannot be read."""
    rows = read_charge_log(read_text(path), path.name, evaluation.sized.choice.series).rows
    found = log_in_hand(evaluation, rows)
    judged = [
        {
            "reading": item.reading,
            "severity": item.severity,
            "code": item.code,
            "text": spoken(item.text),
            "means": spoken(item.means),
            "do": spoken(item.do) or None,
        }
        for item in found.remarks
    ]
    return {
        "readings": len(rows),
        "ah": round(found.taken_ah, 5),
        "wh": round(found.taken_wh, 4),
        "stop": any(item.severity == "stop" for item in found.remarks),
        "judged": judged,
    }


def _log_text(found: dict[str, Any]) -> str:
    lines = []
    first = next((item for item in found["judged"] if item["severity"] == "stop"), None)
    if first is not None:
        lines += [f"STOP. {first['do']}", ""]
    lines += [
        f"{item['severity']}, reading {item['reading']}: {item['text']}. {item['means']}"
        for item in found["judged"]
    ]
    lines.append(f"{found['readings']} readings, {say(found['ah'], 'Ah')} in.")
    return "\n".join(lines)


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print a charger's verdict and the time to full, or a log judged.

    0 when done, 1 where it must not be connected or a log says stop, 2 where something is no good.
    """
    if chosen.file is None and not chosen.batch:
        refuse("a project is wanted")
    seen = None
    if chosen.file is not None:
        seen = evaluation_of(chosen)
        if seen is None:
            return 2
    if chosen.batch:
        return _batch(seen, chosen.catalogue)
    assert seen is not None
    try:
        if chosen.log is not None:
            judged = judged_log(seen, chosen.log)
            chosen.rows = "judged"
            tell(chosen, judged, lambda: _log_text(judged))
            return int(judged["stop"])
        charger = None if chosen.charger is None else charger_of(chosen.charger)
        share = None if chosen.begin is None else share_of(chosen.begin)
        found = charge_records(seen, charger, share)
    except (ChargeError, FileProblem) as problem:
        complain("lumvak charge", problem)
        return 2
    tell(chosen, found, lambda: _text(found))
    return int(found["verdict"]["stop"])


def _text(found: dict[str, Any]) -> str:
    right, verdict = found["charger"], found["verdict"]
    lines = [
        f"Charge with {say(right['volts'], 'V')} and up to {say(right['amps'], 'A')} "
        f"({right['set_by']}); off under {say(right['end_current_a'], 'A')}.",
        f"{found['in_hand']['name']}, {say(found['in_hand']['volts'], 'V')} "
        f"{say(found['in_hand']['amps'], 'A')} {found['in_hand']['kind']}: {verdict['words']}",
        verdict["at_end"],
        verdict["if_the_board_fails"],
        *([verdict["instead"]] if verdict["instead"] else []),
        "",
    ]
    if found["not_begun"]:
        return "\n".join([*lines, found["not_begun"]])
    lines += [
        table(
            ("phase", "time", "charge"),
            [
                (part["name"], say_hours(part["hours"]), say(part["ah"], "Ah"))
                for part in found["phases"]
            ],
        ),
        f"{say_hours(found['hours'])} from {say(found['from_percent'] / 100.0, '%')} to "
        f"{say(verdict['stops_at_percent'] / 100.0, '%')}; ended by "
        f"{ENDED_WORDS[found['ended_by']]}.",
    ]
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
