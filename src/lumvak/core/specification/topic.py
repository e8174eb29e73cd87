"""The specification of a pack: every part on the way and around it (methods 41)."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.around import (
    balance_spec,
    barrier_spec,
    holder_spec,
    sensor_spec,
)
from lumvak.core.specification.bms import bms_spec
from lumvak.core.specification.cell import cell_spec
from lumvak.core.specification.charger import charger_spec
from lumvak.core.specification.contacts import connector_spec, switch_spec
from lumvak.core.specification.fuse import charge_fuse_asked, fuse_spec, main_fuse_asked
from lumvak.core.specification.joints import joints_spec
from lumvak.core.specification.surge import surge_spec
from lumvak.core.specification.window import PartSpec
from lumvak.core.specification.wires import charge_leads_asked, leads_spec, main_leads_asked


class Specification(Struct, frozen=True, eq=False):
    """What to look for, part by part in the order of the current."""

    parts: tuple[PartSpec, ...]

    def of(self, key: str) -> PartSpec:
        """The windows of a part; raises KeyError."""
        return {part.key: part for part in self.parts}[key]  # type: ignore[index]


def specification_in_hand(evaluation: Evaluation) -> Specification:
    """What to look for, for the pack of an evaluation; worked out where it is looked at."""
    return Specification(
        (
            cell_spec(evaluation),
            joints_spec("series", evaluation),
            joints_spec("group", evaluation),
            bms_spec(evaluation),
            fuse_spec(main_fuse_asked(evaluation)),
            leads_spec(main_leads_asked(evaluation)),
            connector_spec(evaluation),
            switch_spec(evaluation),
            surge_spec(evaluation),
            leads_spec(charge_leads_asked(evaluation)),
            fuse_spec(charge_fuse_asked(evaluation)),
            charger_spec(evaluation),
            balance_spec(evaluation),
            sensor_spec(evaluation),
            holder_spec(evaluation),
            barrier_spec(evaluation),
        )
    )
