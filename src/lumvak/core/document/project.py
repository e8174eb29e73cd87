"""The project: what the builder decided or measured; saved, validated and undoable.

``None`` in a field means that the builder has not said; the evaluation then takes a value by a
stated rule and marks everything made from it as assumed.
"""

from typing import Annotated, Literal

from lumvak.core.catalogue.catalogue import Parts
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.document.afterwards.beside import SecondPack
from lumvak.core.document.afterwards.record_of_pack import PackRecord
from lumvak.core.document.afterwards.trouble import Trouble
from lumvak.core.document.arrangement import Arrangement
from lumvak.core.document.charging import Charging
from lumvak.core.document.hand import Hand
from lumvak.core.document.joints import Joints
from lumvak.core.document.making import Making
from lumvak.core.document.measured import MeasuredCell
from lumvak.core.document.need import Need
from lumvak.core.document.pack import Pack
from lumvak.core.document.power import Leads, PowerParts, Protection, Rest, Start
from lumvak.core.document.proving import Proving
from lumvak.core.document.run import RunSettings
from lumvak.core.document.shopping import Shopping
from lumvak.core.document.taps import BalanceLeads
from lumvak.core.document.watch import Watch
from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import phrase, say

PROJECT_FORMAT = "lumvak-project"
PROJECT_VERSION = 1


class Project(Document, frozen=True):
    """Everything the builder decided, with copies of the parts in use."""

    format: Literal["lumvak-project"] = "lumvak-project"
    version: Literal[1] = 1
    name: Annotated[str, about("Name", min_length=1, max_length=120)] = "Untitled pack"
    note: Annotated[str, about("Note", max_length=5000)] = ""
    as_found: AsFound = AsFound()
    need: Need = Need()
    pack: Pack = Pack()
    run: RunSettings = RunSettings()
    arrangement: Arrangement = Arrangement()
    measured: Annotated[tuple[MeasuredCell, ...], about("Measured cells", max_length=20_000)] = ()
    hand: Hand = Hand()
    joints: Joints = Joints()
    making: Making = Making()
    leads: Leads = Leads()
    charge_leads: Leads = Leads(length_m=0.3)
    balance_leads: BalanceLeads = BalanceLeads()
    watch: Watch = Watch()
    protection: Protection = Protection()
    power: PowerParts = PowerParts()
    start: Start = Start()
    rest: Rest = Rest()
    shopping: Shopping = Shopping()
    charging: Charging = Charging()
    proving: Proving = Proving()
    record: PackRecord = PackRecord()
    trouble: Trouble = Trouble()
    beside: SecondPack = SecondPack()
    parts: Parts = Parts()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        floor, ceiling = self.charging.floor_v, self.pack.ceiling_v
        if floor is not None and ceiling is not None and floor >= ceiling:
            raise Unfit(
                "charging.floor_v",
                phrase(
                    "{} is not under the charge limit, {}; accepted: a discharge limit under it",
                    say(floor, "V"),
                    say(ceiling, "V"),
                ),
            )
