"""The part of each kind that the design goes on with."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.document.power import AS_SPECIFIED_ID
from lumvak.core.document.shopping import PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import Text, phrase, wire_name


class InForce(Struct, frozen=True):
    """The name of a part in force, and whether it is one as specified."""

    name: Text
    specified: bool = False


NONE = InForce("none")


def in_force_said(key: PartKey, evaluation: Evaluation) -> InForce:
    """The part of a kind that is in force in an evaluation."""
    sized, power, laid_out = evaluation.sized, evaluation.power, evaluation.laid_out
    places = {
        "fuse": power.fuse.part,
        "charge-fuse": power.charge_fuse.part,
        "connector": power.connector.part,
        "switch": power.switch.part,
        "bms": power.made,
        "surge": power.precharge.part or power.surge.part,
    }
    if key in places:
        part = places[key]
        return NONE if part is None else InForce(part.name, part.id == AS_SPECIFIED_ID)
    if key == "cell":
        return InForce(sized.choice.cell.name)
    if key in ("series", "group"):
        chosen = (laid_out.series if key == "series" else laid_out.group).chosen
        return InForce(chosen.name, chosen.part.id.startswith(AS_SPECIFIED_ID))
    wires = {"leads": sized.wire, "charge-leads": power.charge_wire}
    if key in wires:
        return InForce(wires[key].name)
    if key == "charger":
        return InForce(evaluation.charging.charger.name)
    if key == "balance-leads":
        return InForce(wire_name(evaluation.project.balance_leads.area_mm2))
    if key == "holder":
        holder = sized.parts.holders.get(evaluation.project.arrangement.holder or "")
        return NONE if holder is None else InForce(holder.name)
    if key == "sensor":
        board = power.made
        return NONE if board is None else InForce(phrase("{} of the BMS", board.sensors))
    return InForce("")
