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

    format: Annotated[
        Literal["lumvak-project"],
        about("Format", tip="Says that the file is a project; always lumvak-project"),
    ] = "lumvak-project"
    version: Annotated[
        Literal[1], about("Version", tip="Of the format; a newer program reads older ones")
    ] = 1
    name: Annotated[
        str,
        about(
            "Name",
            min_length=1,
            max_length=120,
            tip="What the pack is called in the window, on labels and in lists",
        ),
    ] = "Untitled pack"
    note: Annotated[str, about("Note", max_length=5000, tip="Free text, several lines")] = ""
    as_found: Annotated[
        AsFound, about("As found", tip="What was seen of a pack that somebody else built")
    ] = AsFound()
    need: Annotated[Need, about("Need", tip="What is to be powered, and its limits")] = Need()
    pack: Annotated[
        Pack, about("Pack", tip="Which cell and count, and what they are chosen by")
    ] = Pack()
    run: Annotated[
        RunSettings, about("Run", tip="From where a run starts, and how far packs spread")
    ] = RunSettings()
    arrangement: Annotated[
        Arrangement, about("Arrangement", tip="How the cells lie in their room")
    ] = Arrangement()
    measured: Annotated[
        tuple[MeasuredCell, ...],
        about(
            "Measured cells",
            max_length=20_000,
            tip="Resistance, OCV and capacity of cells by their place in the pack",
        ),
    ] = ()
    hand: Annotated[
        Hand, about("Cells in hand", tip="Cells that were measured, and their groups")
    ] = Hand()
    joints: Annotated[
        Joints, about("Joints", tip="Strips and busbars, and what they may carry")
    ] = Joints()
    making: Annotated[
        Making, about("Making", tip="Stock that pieces are cut from, and the strip checker")
    ] = Making()
    leads: Annotated[Leads, about("Main leads", tip="The two leads of the discharge path")] = (
        Leads()
    )
    charge_leads: Annotated[
        Leads, about("Charge leads", tip="The two leads of the charge port")
    ] = Leads(length_m=0.3)
    balance_leads: Annotated[
        BalanceLeads, about("Balance leads", tip="The thin leads from the taps to the BMS")
    ] = BalanceLeads()
    watch: Annotated[
        Watch, about("Group voltages", tip="Group voltages over the life of the pack")
    ] = Watch()
    protection: Annotated[Protection, about("Protection", tip="The BMS and how it is set")] = (
        Protection()
    )
    power: Annotated[
        PowerParts, about("Power parts", tip="Fuses, connector, switch, surge limiter")
    ] = PowerParts()
    start: Annotated[Start, about("Start", tip="How the motor starts")] = Start()
    rest: Annotated[Rest, about("Storage", tip="The pack left alone")] = Rest()
    shopping: Annotated[
        Shopping, about("Shopping", tip="Parts found in shops, held against what is wanted")
    ] = Shopping()
    charging: Annotated[
        Charging, about("Charging", tip="Chargers, balancing, and logs of charges")
    ] = Charging()
    proving: Annotated[Proving, about("Prove", tip="Readings of the tests at the bench")] = (
        Proving()
    )
    record: Annotated[
        PackRecord, about("Record", tip="Log, label, and what became of other packs in it")
    ] = PackRecord()
    trouble: Annotated[Trouble, about("Trouble", tip="The search for a fault")] = Trouble()
    beside: Annotated[SecondPack, about("Beside", tip="A second pack in parallel")] = SecondPack()
    parts: Annotated[
        Parts, about("Parts", tip="Copies of the parts in use, so that the file stands alone")
    ] = Parts()

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
