"""``lumvak join``: two packs in parallel, joined and run together."""

from __future__ import annotations

import argparse
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import numpy as np

from lumvak.cli.batch import run_batch
from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import read_evaluation
from lumvak.cli.spelled import say, say_hours
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.cli.written import write_out
from lumvak.core.beside.joining import safe_charges
from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.side import PackSide, SideError, from_numbers, standing_at
from lumvak.core.beside.together import Together, together
from lumvak.core.document.afterwards.beside import By
from lumvak.core.put_beside import side_of
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.export.pair_netlist import pair_text
from lumvak.files.problem import FileProblem

# A pack as a few numbers: 14S:9Ah:0.09ohm:nmc@80%
NUMBERS = re.compile(
    r"(?P<series>\d+)[sS]:(?P<ah>[\d.]+)[aA][hH]:(?P<ohm>[\d.]+)(?P<milli>m?)ohm(?::(?P<chem>[a-z-]+))?"
)
ACCEPTED = "a project file, or such as 14S:9Ah:0.09ohm or 14S:9Ah:90mohm:lfp, and @80% after either"
NAMES = ("A", "B", "C", "D")
# So many rows of a course are told.
ROWS = 60


def read_side(
    text: str, name: str, catalogue: Sequence[Path], changes: Sequence[str] = ()
) -> PackSide | None:
    """A pack from its numbers or its project; ``None``, and told, where that cannot be read.

    ``changes`` are of its project, each ``path=value``. Raises SideError.
    """
    asked, at_sign, share = text.rpartition("@")
    asked, at = (asked, _share(share, text)) if at_sign else (text, 1.0)
    if (match := NUMBERS.fullmatch(asked)) is not None:
        if changes:
            raise SideError(f"--set {changes[0]}: {name} is no project, it has no fields")
        known, _ = load_catalogue()
        chemistry = known.chemistries.get(match["chem"] or "nmc")
        if chemistry is None:
            raise SideError(
                f"{name}: no chemistry “{match['chem']}”; accepted: {', '.join(known.chemistries)}"
            )
        ohm = float(match["ohm"]) * (1e-3 if match["milli"] else 1.0)
        try:
            return from_numbers(name, int(match["series"]), float(match["ah"]), ohm, chemistry, at)
        except ValueError as problem:
            raise SideError(f"{name}: “{text[:60]}” is no pack; accepted: {ACCEPTED}") from problem
    if not Path(asked).suffix:
        raise SideError(f"{name}: “{text[:60]}” is no pack; accepted: {ACCEPTED}")
    evaluation = read_evaluation("lumvak join", Path(asked), catalogue, changes)
    return None if evaluation is None else side_of(evaluation, at)


def _of(item: str) -> tuple[str, str]:
    """Of which pack something was set, the first where none is named, and what."""
    of, sign, change = item.partition(":")
    return (of.upper(), change) if sign and of.upper() in NAMES else (NAMES[0], item)


def _changes(typed: Sequence[str], name: str) -> list[str]:
    """What was set of a pack."""
    return [change for of, change in map(_of, typed) if of == name]


def _known(typed: Sequence[str], count: int) -> None:
    for item in typed:
        if _of(item)[0] not in NAMES[:count]:
            raise SideError(f"--set {item}: there are {count} packs, {' and '.join(NAMES[:count])}")


def _share(text: str, whole: str) -> float:
    number = text.strip().removesuffix("%")
    try:
        value = float(number)
    except ValueError:
        raise SideError(f"“{whole[:60]}”: “{text[:20]}” is no charge; accepted: @80%") from None
    value = value / 100.0 if text.strip().endswith("%") else value
    if not 0.0 <= value <= 1.0:
        raise SideError(f"“{whole[:60]}”: “{text[:20]}” is no charge; accepted: @0% to @100%")
    return value


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Join and share; 0 where it holds, 1 where a part does not or it must not be, 2 refused."""
    if chosen.batch:
        return run_batch(lambda asked: _asked(asked, chosen), BATCH_WANTS)
    load = _load(chosen, refuse)
    try:
        if chosen.one is None or not 1 <= len(chosen.other) < len(NAMES):
            refuse("two packs are wanted, or up to four")
        _known(chosen.set, len(chosen.other) + 1)
        sides = [
            read_side(text, name, chosen.catalogue, _changes(chosen.set, name))
            for text, name in zip((chosen.one, *chosen.other), NAMES, strict=False)
        ]
    except SideError as problem:
        complain("lumvak join", spoken(problem.said))
        return 2
    packs = [it for it in sides if it is not None]
    if len(packs) < len(sides):
        return 2
    found = together(_apart(packs, chosen.apart), load, chosen.by)
    if chosen.netlist is not None:
        try:
            content = pair_text(found, chosen.by).encode("utf-8")
            write_out(chosen.netlist, content, chosen.force, told=False)
        except FileProblem as problem:
            complain("lumvak join", problem)
            return 2
    tell(chosen, join_json(found), lambda: join_text(found))
    return int(bool(found.why_not) or not all(it.holds for it in found.carried))


BATCH_WANTS = '{"a": "14S:9Ah:0.09ohm@100%", "b": "14S:20Ah:0.06ohm", "current_a": 20}'


def _asked(asked: Any, chosen: argparse.Namespace) -> dict[str, Any]:
    """One line of a batch."""
    keys = ("a", "b", *(key for key in ("c", "d") if key in asked))
    _known(chosen.set, len(keys))
    sides = [
        read_side(str(asked[key]), name, chosen.catalogue, _changes(chosen.set, name))
        for key, name in zip(keys, NAMES, strict=False)
    ]
    packs = [it for it in sides if it is not None]
    if len(packs) < len(sides):
        raise SideError("a project cannot be read")
    amps, watts = asked.get("current_a"), asked.get("load_w")
    if (amps is None) == (watts is None):
        raise SideError("say current_a or load_w")
    load = SharedLoad(
        None if amps is None else float(amps), None if watts is None else float(watts)
    )
    by: By = asked.get("by", chosen.by)
    return join_json(together(_apart(packs, asked.get("apart_v")), load, by))


def _load(chosen: argparse.Namespace, refuse: Refuse) -> SharedLoad:
    if (chosen.current is None) == (chosen.load is None):
        refuse("say --current or --load, one of them")
    return SharedLoad(chosen.current, chosen.load)


def _apart(packs: Sequence[PackSide], volts: float | None) -> tuple[PackSide, ...]:
    """All as they stand, or the second so much under the first."""
    one, other, *more = packs
    if volts is not None:
        other = standing_at(other, other.at_volts(one.emf_v - volts))
    return one, other, *more


def join_json(found: Together) -> dict[str, Any]:
    """What is found, as a script reads it."""
    if found.why_not or found.course is None:
        return {"may": False, "why_not": [spoken(it) for it in found.why_not]}
    course, joining = found.course, found.joining
    opens = found.first_opens
    return {
        "may": True,
        "why_not": [],
        "join_safe": None if joining is None else found.is_safe,
        "sparks": any(it.sparks for it in found.plugs),
        "stand_at": [it.at for it in found.sides],
        "notes": [spoken(note) for it in found.sides for note in it.notes],
        "join_peak_a": None if joining is None else joining.peak_a,
        "join_s": None if joining is None else joining.seconds,
        "join_heat_j": None if joining is None else joining.heat_j,
        "safe_apart_v": None if joining is None else joining.safe_v,
        "safe_charges": None
        if joining is None
        else list(safe_charges(found.sides[0], found.sides[1], joining.safe_v)),
        "hours": course.hours,
        "hours_alone": list(found.hours_alone),
        "rises_k": list(found.rises_k),
        "given_ah": course.given_ah.tolist(),
        "given_wh": course.given_wh,
        "left": course.charge[-1].tolist(),
        "first_opens": None if opens is None else {"which": opens[0], "s": opens[1]},
        "ends_by": course.why,
        "shares": [
            {
                "s": float(course.seconds[row]),
                **{f"a{place + 1}": float(it) for place, it in enumerate(course.amps[row])},
            }
            for row in _rows(len(course.seconds))
        ],
        "limits": [
            {
                "what": f"{it.side}: {spoken(it.what)}, {it.when}",
                "carries_a": it.carries_a,
                "limit_a": it.limit_a,
                "holds": it.holds,
                "assumed": it.assumed,
            }
            for it in found.carried
        ],
    }


def _rows(count: int) -> list[int]:
    return sorted(set(np.linspace(0, count - 1, min(count, ROWS)).round().astype(int).tolist()))


def join_text(found: Together) -> str:
    """What is found, to read."""
    if found.why_not or found.course is None:
        return "\n".join(f"Not in parallel: {spoken(it)}." for it in found.why_not)
    lines = []
    for place, plug in enumerate(found.plugs[1:], 2):
        lines.append(
            f"{NAMES[place]} onto those before it, {say(abs(plug.apart_v), 'V')} apart: "
            f"{say(plug.peak_a, 'A')}; within {say(plug.safe_v, 'V')} every part bears it."
        )
    if (joining := found.joining) is not None:
        low, high = safe_charges(found.sides[0], found.sides[1], joining.safe_v)
        apart, peak = say(abs(joining.apart_v), "V"), say(joining.peak_a, "A")
        lines += [
            f"Joined now, {apart} apart: {peak} at first, for {say(joining.seconds, 's')}: "
            f"{'every part bears it' if joining.is_safe else 'not as they stand'}.",
            f"May be joined within {say(joining.safe_v, 'V')}: "
            f"B between {say(low, '%')} and {say(high, '%')}.",
        ]
    course = found.course
    alone = ", ".join(say_hours(it) for it in found.hours_alone)
    lines.append(f"Together {say_hours(course.hours)}; alone {alone}. Ends: {course.why}.")
    rows = [
        (
            f"{it.side}, {spoken(it.what)}",
            it.when,
            say(it.carries_a, "A"),
            say(it.limit_a, "A") + (", assumed" if it.assumed else ""),
            "holds" if it.holds else "does not hold",
        )
        for it in found.carried
    ]
    lines += ["", table(("part", "when", "carries", "may", ""), rows)]
    return "\n".join(lines)
