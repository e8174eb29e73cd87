"""``lumvak wire`` and ``lumvak strip``: what carries a current, by each of the three criteria."""

from __future__ import annotations

import argparse
from collections.abc import Mapping, Sequence
from typing import Any

from msgspec.structs import replace

from lumvak.cli.command import Refuse
from lumvak.cli.parts.at_hand import catalogue_of
from lumvak.cli.spelled import say
from lumvak.cli.table import table, tell
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.checked import D, NotAccepted, renewed
from lumvak.core.conductors.lead_wire import wire_limits_a, wire_options
from lumvak.core.document.joints import Joints
from lumvak.core.document.power import Leads
from lumvak.core.joints.candidates import MOST_LAYERS, Allowed, Candidate
from lumvak.core.joints.proposal import over_span
from lumvak.core.spelling import gauge_name, spoken
from lumvak.core.time_current import peak_allowance
from lumvak.files.power_records import finite

CRITERIA = ("temperature", "rule", "loss")
CRITERION_HEADS = ("by temperature", "by A/mm²", "by drop")
# Criteria as they are typed.
CRITERION = {"temperature": "temperature", "density": "rule", "loss": "loss"}


def _allowed(record: D, wanted: Mapping[str, Any], refuse: Refuse) -> D:
    """A record with what was given of it; what is not accepted is refused."""
    try:
        return renewed(record, {name: it for name, it in wanted.items() if it is not None})
    except NotAccepted as problem:
        refuse(spoken(problem.said))


def wire(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Which wires carry a current as a pair of leads; 1 where none does."""
    catalogue = catalogue_of(chosen)
    if catalogue is None:
        return 2
    changes = {
        "length_m": chosen.length,
        "rise_limit_k": chosen.rise,
        "rule_a_per_mm2": chosen.density,
        "loss_mv": chosen.drop,
        "bundled": chosen.bundled or None,
        "school": CRITERION[chosen.criterion],
    }
    leads = _allowed(Leads(), changes, refuse)
    options = wire_options(catalogue.wires.values(), leads, chosen.current, chosen.ambient)
    rows = [
        {
            "id": it.part.id,
            "name": it.part.name,
            "area_mm2": it.part.area_mm2,
            "gauge": spoken(gauge_name(it.part.area_mm2)),
            "insulation": it.part.insulation,
            "serves": it.serves,
            "limits_a": wire_limits_a(it.part, leads, chosen.ambient),
            "drop_v": it.drop_v,
            "rise_k": it.rise_k,
            "cost": it.cost,
        }
        for it in options
    ]
    tell(chosen, {"criterion": leads.school, "wires": rows}, lambda: _wire_text(rows, chosen))
    return int(not any(it.serves for it in options))


def _wire_text(rows: Sequence[dict[str, Any]], chosen: argparse.Namespace) -> str:
    shown = [row for row in rows if row["serves"]][: chosen.top]
    told = [
        (
            row["name"],
            *(say(row["limits_a"][key], "A") for key in CRITERIA),
            say(row["drop_v"], "V"),
            say(row["rise_k"], "K"),
            say(row["cost"], "money"),
        )
        for row in shown
    ]
    heads = ("wire", *CRITERION_HEADS, "drop in both", "rise", "cost")
    if not shown:
        return f"no wire carries {say(chosen.current, 'A')} {_by(chosen)}"
    return f"{table(heads, told)}\n{_judged(chosen)}"


def strip(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Which strips and busbars carry a current between two welds; 1 where none does."""
    catalogue = catalogue_of(chosen)
    if catalogue is None:
        return 2
    changes = {
        "rise_limit_k": chosen.rise,
        "rule_a_per_mm2": chosen.density,
        "loss_mv": chosen.drop,
    }
    joints = _allowed(Joints(), changes, refuse)
    allowed = Allowed(
        1.0,
        joints.rise_limit_k,
        surroundings_c=chosen.ambient,
        rule_a_per_mm2=joints.rule_a_per_mm2,
        loss_mv=joints.loss_mv,
        peak_s=10.0,
        allowance=peak_allowance(10.0),
    )
    school = CRITERION[chosen.criterion]
    found = sorted(
        (
            over_span(part, layers, chosen.span, chosen.current, allowed)
            for part in _conductors(catalogue, chosen)
            for layers in range(1, 1 + (1 if part.form == "busbar" else MOST_LAYERS))
        ),
        key=lambda it: (it.limits_a[school] < chosen.current, it.layers, it.section.area_m2),
    )
    rows = [_strip_row(it, it.limits_a[school] >= chosen.current) for it in found]
    tell(chosen, {"criterion": school, "strips": rows}, lambda: _strip_text(rows, chosen))
    return int(not any(row["serves"] for row in rows))


def _conductors(catalogue: Catalogue, chosen: argparse.Namespace) -> list[Conductor]:
    """Strips and busbars of the metal that is asked for; sheets where a width is said."""
    metal, width = chosen.metal, chosen.width
    parts = [
        part
        for part in catalogue.conductors.values()
        if metal in (None, part.material) and (part.form != "sheet" or width is not None)
    ]
    if width is None:
        return parts
    return [
        replace(part, width_mm=width) if part.form == "sheet" else part
        for part in parts
        if part.form == "sheet" or abs(part.width_mm - width) < 0.01
    ]


def _strip_row(it: Candidate, serves: bool) -> dict[str, Any]:
    return {
        "id": it.part.id,
        "name": spoken(it.part.said),
        "layers": it.layers,
        "width_mm": it.width_mm,
        "serves": serves,
        "limits_a": {key: finite(it.limits_a[key]) for key in CRITERIA},
        "ohm": it.ohm,
        "drop_v": it.drop_v,
        "loss_w": it.loss_w,
        "rise_k": finite(it.rise_k),
    }


def _strip_text(rows: Sequence[dict[str, Any]], chosen: argparse.Namespace) -> str:
    shown = [row for row in rows if row["serves"]][: chosen.top]
    told = [
        (
            row["name"],
            str(row["layers"]),
            *(say(row["limits_a"][key], "A") for key in CRITERIA),
            say(row["ohm"], "ohm"),
            say(row["drop_v"], "V"),
            say(row["rise_k"], "K"),
        )
        for row in shown
    ]
    heads = ("conductor", "layers", *CRITERION_HEADS, "resistance", "drop", "rise")
    if not shown:
        return f"no strip carries {say(chosen.current, 'A')} {_by(chosen)}"
    return f"{table(heads, told)}\n{_judged(chosen)}"


def _by(chosen: argparse.Namespace) -> str:
    """The criterion in words."""
    words = {"temperature": "by its rise", "density": "by its current density", "loss": "by drop"}
    return words[chosen.criterion]


def _judged(chosen: argparse.Namespace) -> str:
    return (
        f"Sorted and judged {_by(chosen)}; --criterion takes another. Rises are over "
        f"{say(chosen.ambient, '°C')}."
    )
