"""Chargers and supplies, as their labels and a meter give them."""

from typing import Annotated, Literal

from lumvak.core.record import Document, PartId, Unfit, about
from lumvak.core.said import phrase, say

ChargerKind = Literal["cccv", "lead", "nickel", "supply"]
Equalise = Literal["unknown", "off", "on"]
CHARGER_KINDS: dict[ChargerKind, str] = {
    "cccv": "constant current, then constant voltage",
    "lead": "for lead, in stages",
    "nickel": "for nickel cells",
    "supply": "a bare supply",
}
SHORT_KINDS: dict[ChargerKind, str] = {
    "cccv": "CC-CV", "lead": "lead-acid", "nickel": "nickel", "supply": "supply",
}  # fmt: skip


class Charger(Document, frozen=True, kw_only=True):
    """A charger or a supply.

    ``volts`` is where it ends: the constant voltage, the absorption stage of one for lead, what is
    set on a supply; ``low_v`` the other end of a band, as a vehicle's or a solar source has.
    ``open_v`` is what it shows with nothing connected, ``end_a`` where it turns off, ``equalise``
    whether one for lead has a stage over its absorption, ``compensates`` whether it follows the
    temperature. A supply that is not ``limited`` has no
    current limit of its own.
    """

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", min_length=1, max_length=60, tip="What it is called")] = (
        "charger"
    )
    kind: Annotated[
        ChargerKind, about("Kind", tip="CC-CV, for lead, for nickel, or a bench supply")
    ] = "cccv"
    volts: Annotated[
        float, about("Volts", "V", gt=0, le=1000, tip="Constant voltage that it ends at")
    ]
    amps: Annotated[float, about("Amps", "A", ge=1e-3, le=1000, tip="Constant current before that")]
    low_v: (
        Annotated[
            float,
            about(
                "At the least",
                "V",
                gt=0,
                le=1000,
                tip="Of its tolerance; as the volts where not given",
            ),
        ]
        | None
    ) = None
    open_v: (
        Annotated[
            float,
            about(
                "Shows with nothing connected",
                "V",
                gt=0,
                le=2000,
                tip="Measured at its plug with nothing connected",
            ),
        ]
        | None
    ) = None
    end_a: (
        Annotated[
            float,
            about(
                "Turns off under",
                "A",
                ge=1e-4,
                le=1000,
                tip="Current under which it ends the charge",
            ),
        ]
        | None
    ) = None
    timer_h: (
        Annotated[
            float, about("Turns off after", "h", gt=0, le=1000, tip="Longest that it charges")
        ]
        | None
    ) = None
    equalise: Annotated[
        Equalise,
        about("Equalise stage", tip="Whether it raises its voltage now and then, as for lead"),
    ] = "unknown"
    compensates: Annotated[
        Equalise,
        about(
            "Volts rise in the cold", tip="Whether it raises its voltage in the cold, as for lead"
        ),
    ] = "unknown"
    limited: Annotated[
        bool, about("Limits its current", tip="False where it gives whatever is drawn")
    ] = True
    rebuilt: Annotated[bool, about("Rebuilt", tip="Whether somebody changed it inside")] = False
    price: Annotated[float, about("Cost", ge=0, le=1e6, tip="Of one")] | None = None
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.end_a is not None and self.end_a >= self.amps:
            raise Unfit(
                "end_a",
                phrase(
                    "{} is no less than it gives; accepted: under {}",
                    say(self.end_a, "A"),
                    say(self.amps, "A"),
                ),
            )
        if self.low_v is not None and self.low_v > self.volts:
            raise Unfit(
                "low_v",
                phrase(
                    "{} is over its volts; accepted: {} or less",
                    say(self.low_v, "V"),
                    say(self.volts, "V"),
                ),
            )
