"""What draws: steps of a duty, rails with their appliances, and which of them is given."""

from collections.abc import Collection, Sequence
from typing import Annotated, Literal

from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import listed, phrase
from lumvak.core.spelling import Refused

MOST_DUTY_STEPS = 500
MOST_RAILS = 12
MOST_APPLIANCES = 40
LoadBasis = Literal["current", "power", "duty", "rails"]
EnduranceBasis = Literal["runtime", "capacity", "energy", "distance", "appliances", "open"]
RailKind = Literal["direct", "converter", "inverter"]


class DutyStep(Document, frozen=True):
    """A part of a duty: an amount in A or W for a time in s."""

    amount: Annotated[
        float, about("Amount", ge=0, le=1e6, tip="Load of the step, in A or W as duty_unit says")
    ]
    seconds: Annotated[float, about("Seconds", "s", gt=0, le=1e6, tip="How long the step lasts")]


class Rail(Document, frozen=True):
    """One output of a portable supply: its voltage and what makes it from that of the pack."""

    name: Annotated[
        str,
        about(
            "Rail", min_length=1, max_length=40, tip="What the output is called; appliances name it"
        ),
    ]
    volts: Annotated[float, about("Volts", "V", gt=0, le=1000, tip="Voltage of the output")]
    kind: Annotated[
        RailKind, about("Made by", tip="A converter, an inverter, or straight from the pack")
    ] = "converter"
    efficiency: (
        Annotated[
            float,
            about(
                "Efficiency",
                "%",
                gt=0,
                le=1,
                tip="Of the converter; 90 %, of an inverter 85 %, where not given",
            ),
        ]
        | None
    ) = None
    limit_w: (
        Annotated[
            float, about("Gives at most", "W", gt=0, le=1e6, tip="What the converter gives at most")
        ]
        | None
    ) = None
    fuse_a: (
        Annotated[float, about("Fuse", "A", gt=0, le=1000, tip="Fuse of this output")] | None
    ) = None
    idle_w: Annotated[
        float,
        about("Draws idle", "W", ge=0, le=1e5, tip="Drawn by the converter with nothing connected"),
    ] = 0.0


class Appliance(Document, frozen=True, kw_only=True):
    """Something fed from a rail: watts, or amps at the volts of the rail, and hours a charge."""

    name: Annotated[str, about("Appliance", min_length=1, max_length=40, tip="What it is called")]
    rail: Annotated[
        str, about("Fed from", min_length=1, max_length=40, tip="Name of the rail that feeds it")
    ]
    amount: Annotated[
        float, about("Draws", ge=0, le=1e6, tip="Watts, or amps at the volts of the rail")
    ]
    unit: Annotated[Literal["W", "A"], about("In", tip="W or A")] = "W"
    hours: Annotated[
        float,
        about("Hours a charge", "h", ge=0, le=1e4, tip="How long it is on between two charges"),
    ]


# What a load, and how long it is wanted, may be given as, and the fields that say so.
LOADS: dict[LoadBasis, tuple[str, ...]] = {
    "current": ("current_a",), "power": ("power_w",), "duty": ("duty",),
    "rails": ("rails", "appliances"),
}  # fmt: skip
ENDURANCES: dict[EnduranceBasis, tuple[str, ...]] = {
    "runtime": ("runtime_h",), "capacity": ("capacity_ah",), "energy": ("energy_wh",),
    "distance": ("distance_km",), "appliances": ("appliances",), "open": (),
}  # fmt: skip
AMOUNTS = frozenset(
    name for ways in (LOADS, ENDURANCES) for names in ways.values() for name in names
)


def bases_of(given: Collection[str]) -> dict[str, str]:
    """What ``load_basis`` and ``endurance_basis`` follow from the fields that are given.

    Raises Refused where two of them contradict, and nobody says which counts.
    """
    found: dict[str, str] = {}
    for name, ways in (("load_basis", LOADS), ("endurance_basis", ENDURANCES)):
        named = {
            basis: [field for field in fields if field in given] for basis, fields in ways.items()
        }
        meant = [basis for basis, fields in named.items() if fields]
        if name in given or not meant:
            continue
        if len(meant) > 1:
            fields = " and ".join(named[basis][0] for basis in meant)
            raise Refused(
                phrase(
                    "{} are given, and not which of them counts; accepted: one of them, or {} {}",
                    fields,
                    name,
                    " or ".join(meant),
                )
            )
        found[name] = meant[0]
    return found


def check_fed(rails: Sequence[Rail], appliances: Sequence[Appliance], basis: LoadBasis) -> None:
    """Raise Unfit where rails and what they feed contradict each other."""
    names = [rail.name for rail in rails]
    for place, name in enumerate(names):
        if name in names[:place]:
            raise Unfit("rails", phrase("two are called “{}”; accepted: names that differ", name))
    for item in appliances:
        if item.rail not in names:
            raise Unfit(
                "appliances",
                phrase(
                    "“{}” is fed from “{}”, which is no rail; accepted: {}",
                    item.name,
                    item.rail,
                    listed(names),
                ),
            )
    fed = sum(item.amount for item in appliances) + sum(item.idle_w for item in rails)
    if basis == "rails" and fed <= 0.0:
        raise Unfit("appliances", "nothing draws anything; accepted: one with watts or amps")
