"""A part of one's own from as few figures as there are; the rest is as specified (methods 41)."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.bms.as_specified import board_as_specified
from lumvak.core.catalogue.boards import Board, BoardStage
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.catalogue.power_parts import USUAL_BANDS, Connector, Fuse, Switch
from lumvak.core.cells.cell_sheet import from_few
from lumvak.core.document.shopping import PartFound, PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.power.as_specified import (
    connector_as_specified,
    fuse_as_specified,
    switch_as_specified,
)
from lumvak.core.power.connectors import ContactSetting
from lumvak.core.power.fuses import FuseSetting
from lumvak.core.record import Unfit
from lumvak.core.specification.joints import conductor_in_hand, joint_asked

# Where a part of a kind is picked, and where its kind stands in a catalogue.
PATHS: dict[PartKey, str] = {
    "bms": "protection.board", "fuse": "power.fuse", "charge-fuse": "power.charge_fuse",
    "connector": "power.connector", "switch": "power.switch", "leads": "leads.area_mm2",
    "charge-leads": "charge_leads.area_mm2", "charger": "charging.charger", "cell": "pack.cell",
    "series": "joints.series.part", "group": "joints.group.part",
}  # fmt: skip
KINDS: dict[PartKey, str] = {
    "bms": "boards", "fuse": "fuses", "charge-fuse": "fuses", "connector": "connectors",
    "switch": "switches", "cell": "cells",
}  # fmt: skip
# What is worked with of a part that is no cell.
FIGURES = (
    "continuous_a", "stages", "charge_a", "over_voltage_v", "under_voltage_v", "balance_a",
    "resistance_ohm", "quiescent_a", "rating_a", "voltage_dc_v", "breaking_a", "band",
    "resistance_mohm", "short_a", "mated_mohm",
)  # fmt: skip
NOTE = "from its sheet: {}; the rest as specified"


class OwnPart(Struct, frozen=True):
    """A part to keep among one's own, ``kind`` its list, and the edits that put it in force.

    ``part`` is ``None`` where the project takes the figure itself.
    """

    kind: str
    part: Any
    changes: dict[str, Any]


def can_be_own(key: PartKey) -> bool:
    """Whether a part of a kind can be made one's own here."""
    return key in PATHS


def own_part(found: PartFound, evaluation: Evaluation) -> OwnPart:
    """A part of one's own, and the edits that put it in force.

    Raises KeyError for a kind that has none, Unfit where its figures contradict each other.
    """
    key, given = found.part, found.given
    path = PATHS[key]
    if key == "charger":
        charger = replace(_charger(given, evaluation), id=_slug(found.name), name=found.name)
        charger.check()
        kept = [it for it in evaluation.project.charging.chargers if it.id != charger.id]
        return OwnPart("", None, {"charging.chargers": (*kept, charger), path: charger.id})
    if key in ("leads", "charge-leads"):
        wire = path.replace("area_mm2", "wire")
        return OwnPart("", None, {wire: None, path: given.get("area_mm2")})
    if key in ("series", "group"):
        return _conductor(found, evaluation)
    part = replace(
        _made(key, given, evaluation),
        id=_slug(found.name),
        name=found.name,
        price=found.price or 0.0,
        note=NOTE.format(", ".join(given) or "nothing"),
    )
    if key != "cell":
        part = replace(part, guessed=_guessed(part, given))
    part.check()
    return OwnPart(KINDS[key], part, {path: part.id})


def _conductor(found: PartFound, evaluation: Evaluation) -> OwnPart:
    """A strip or bar as found, in as many layers as carry the load."""
    key = found.part
    laid = conductor_in_hand(found.given, joint_asked(key, evaluation))
    if laid is None:
        raise Unfit("thickness_mm", "a conductor wants its thickness and its width")
    part = replace(laid.part, id=_slug(found.name), name=found.name)
    part.check()
    changes = {PATHS[key]: part.id, f"joints.{key}.layers": laid.layers}
    return OwnPart("conductors", part, {**changes, f"joints.{key}.width_mm": None})


def _guessed(part: Any, given: Mapping[str, float | str]) -> tuple[str, ...]:
    """The figures of a part that its sheet did not give."""
    known = {*given, *(("stages",) if "peak_a" in given else ())}
    return tuple(name for name in FIGURES if name in part.__struct_fields__ and name not in known)


def _slug(name: str) -> str:
    return "shop-" + (re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "part")


def _made(key: PartKey, given: Mapping[str, float | str], evaluation: Evaluation) -> Any:
    power = evaluation.power
    if key == "cell":
        return _cell(given, evaluation)
    if key == "bms":
        return _board(given, evaluation)
    if key == "fuse":
        return _fuse(given, power.fuse_asked)
    if key == "charge-fuse":
        return _fuse(given, power.charge_fuse_asked)
    pack = evaluation.sized.pack
    draw = evaluation.sized.drawn.limited
    asked = ContactSetting(draw.continuous_a, draw.curve, pack.full.number, draw.curve * 0.0)
    made: Connector | Switch = (
        connector_as_specified(asked) if key == "connector" else switch_as_specified(asked)
    )
    made = _with(made, given)
    if made.short_a <= made.continuous_a:
        made = replace(made, short_a=1.2 * made.continuous_a)
    return made


def _with(part: Any, given: Mapping[str, float | str]) -> Any:
    """The part with the plain figures that were given."""
    fields = part.__struct_fields__
    plain = {name: value for name, value in given.items() if name in fields and name != "stages"}
    whole = {
        name: int(value) if name in ("series", "sensors", "ports") else value
        for name, value in plain.items()
    }
    return replace(part, **whole)


def _cell(given: Mapping[str, float | str], evaluation: Evaluation) -> Cell:
    """A cell of the figures given, the rest guessed as those of the cell in force."""
    made = from_few(given, evaluation.sized.choice.cell)
    if "pulse_a" not in given:
        return made
    return replace(made, pulse_s=evaluation.sized.demand.peak_duration.number)


def _board(given: Mapping[str, float | str], evaluation: Evaluation) -> Board:
    setting = evaluation.sized.boards.setting
    board: Board = _with(board_as_specified(setting), given)
    continuous, peak = board.continuous_a, given.get("peak_a")
    slow = max(continuous, board.stages[0].current_a)
    levels = [slow, *(max(slow, stage.current_a) for stage in board.stages[1:])]
    if isinstance(peak, float | int):
        levels = [max(continuous, float(peak))] * 2 + [max(levels[-1], float(peak))]
    stages = tuple(
        BoardStage(current_a=amps, delay_s=stage.delay_s)
        for amps, stage in zip(levels, board.stages, strict=True)
    )
    over, under = board.over_voltage_v, board.under_voltage_v
    between = (over + under) / 2.0
    return replace(
        board,
        stages=stages,
        over_voltage_release_v=max(over - 0.1, between),
        under_voltage_release_v=min(under + 0.3, between),
        balance_a=0.0 if board.kind == "protection" else board.balance_a,
    )


def _fuse(given: Mapping[str, float | str], asked: FuseSetting) -> Fuse:
    form = given.get("form")
    made = fuse_as_specified(asked) or _usual_fuse(asked)
    if form in USUAL_BANDS:
        band, derate = USUAL_BANDS[form]
        made = replace(made, form=str(form), band=band, derate_per_k=derate)
    return _with(made, given)  # type: ignore[no-any-return]


def _usual_fuse(asked: FuseSetting) -> Fuse:
    band, derate = USUAL_BANDS["bolt"]
    return Fuse(
        id="usual",
        name="usual",
        form="bolt",
        rating_a=1.25 * asked.current_a,
        voltage_dc_v=asked.full_v,
        breaking_a=2.0 * asked.short_a,
        band=band,
        derate_per_k=derate,
        resistance_mohm=80.0 / max(asked.current_a, 0.1),
        price=0.0,
    )


def _charger(given: Mapping[str, float | str], evaluation: Evaluation) -> Charger:
    right = evaluation.charging.right
    made = Charger(id="own", volts=right.volts.number, amps=right.amps.number)
    return _with(made, given)  # type: ignore[no-any-return]
