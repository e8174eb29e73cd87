"""Parts between the joints and the equipment: fuses, wires, connectors, switches, surge parts."""

from collections.abc import Sequence
from itertools import pairwise
from typing import Annotated, Literal

from lumvak.core.record import (
    Document,
    Guessed,
    NotNegative,
    PartId,
    Positive,
    Unfit,
    about,
    check_guessed,
)
from lumvak.core.said import digits, listed, phrase

Insulation = Literal["pvc", "xlpe", "silicone", "ptfe"]
FuseForm = Literal["blade", "bolt", "cartridge"]
SwitchKind = Literal["switch", "relay", "breaker", "electronic"]
SurgeKind = Literal["thermistor", "resistor", "anti-spark"]


class BandPoint(Document, frozen=True):
    """At ``ratio`` times its rating a fuse holds ``least_s`` and has opened by ``most_s``.

    ``most_s`` is ``None`` where it need not open at all.
    """

    ratio: Annotated[float, about("Times the rating", gt=1, le=100, tip="Current over the rating")]
    least_s: Annotated[
        float,
        about(
            "Opens no sooner than", "s", gt=0, le=1e7, tip="Soonest that it opens at that current"
        ),
    ]
    most_s: (
        Annotated[
            float,
            about(
                "Opens by",
                "s",
                gt=0,
                le=1e7,
                tip="Latest that it opens; not given where it may hold for ever",
            ),
        ]
        | None
    ) = None


# Road-vehicle blade fuses, typical (methods 22).
BLADE_BAND = (
    BandPoint(ratio=1.10, least_s=360000.0),
    BandPoint(ratio=1.35, least_s=0.75, most_s=1800.0),
    BandPoint(ratio=1.60, least_s=0.25, most_s=50.0),
    BandPoint(ratio=2.00, least_s=0.15, most_s=5.0),
    BandPoint(ratio=3.50, least_s=0.04, most_s=0.5),
    BandPoint(ratio=6.00, least_s=0.02, most_s=0.1),
)
# Bolt-down links and cartridges for semiconductors, typical (methods 22).
BOLT_BAND = (
    BandPoint(ratio=1.10, least_s=14400.0),
    BandPoint(ratio=1.35, least_s=30.0, most_s=1800.0),
    BandPoint(ratio=2.00, least_s=1.0, most_s=20.0),
    BandPoint(ratio=3.50, least_s=0.2, most_s=1.5),
    BandPoint(ratio=6.00, least_s=0.04, most_s=0.3),
    BandPoint(ratio=10.0, least_s=0.015, most_s=0.1),
)
CARTRIDGE_BAND = (
    BandPoint(ratio=1.10, least_s=14400.0),
    BandPoint(ratio=1.45, least_s=5.0, most_s=3600.0),
    BandPoint(ratio=2.00, least_s=0.3, most_s=60.0),
    BandPoint(ratio=3.00, least_s=0.03, most_s=2.0),
    BandPoint(ratio=5.00, least_s=0.004, most_s=0.06),
    BandPoint(ratio=10.0, least_s=0.0007, most_s=0.008),
)
# The melting band that is usual for each form, and what it loses for a kelvin over 25 °C.
USUAL_BANDS: dict[FuseForm, tuple[tuple[BandPoint, ...], float]] = {
    "blade": (BLADE_BAND, 0.002),
    "bolt": (BOLT_BAND, 0.003),
    "cartridge": (CARTRIDGE_BAND, 0.004),
}
FUSE_FORMS: dict[FuseForm, str] = {
    "blade": "blade", "bolt": "bolt-down, slow", "cartridge": "cartridge, quick",
}  # fmt: skip


def check_band(name: str, band: Sequence[BandPoint]) -> None:
    """Raise Unfit for the field ``name`` where a band is unordered or crosses itself."""
    if sum(point.most_s is not None for point in band) < 2:
        raise Unfit(name, "fewer than two points say by when it opens; accepted: two or more")
    for place, point in enumerate(band, 1):
        if point.most_s is not None and point.most_s < point.least_s:
            raise Unfit(
                name,
                phrase(
                    "point {} opens by {} s, before the {} s that it holds; accepted: {} s or more",
                    place,
                    digits(point.most_s, "g"),
                    digits(point.least_s, "g"),
                    digits(point.least_s, "g"),
                ),
            )
    for place, (one, two) in enumerate(pairwise(band), 2):
        if two.ratio <= one.ratio:
            raise Unfit(
                name,
                phrase(
                    "point {} is at {} times the rating, not over the {} before it; accepted: "
                    "points that rise",
                    place,
                    digits(two.ratio, "g"),
                    digits(one.ratio, "g"),
                ),
            )
        if two.least_s >= one.least_s:
            raise Unfit(
                name,
                phrase(
                    "point {} holds {} s, not under the {} s before it; accepted: times that fall "
                    "as the current rises",
                    place,
                    digits(two.least_s, "g"),
                    digits(one.least_s, "g"),
                ),
            )
        if one.most_s is not None and (two.most_s is None or two.most_s >= one.most_s):
            raise Unfit(
                name,
                phrase(
                    "point {} does not open sooner than the one before it; accepted: times under "
                    "{} s",
                    place,
                    digits(one.most_s, "g"),
                ),
            )


class Fuse(Document, frozen=True, kw_only=True):
    """A fuse; ``derate_per_k`` is the share of its rating lost for each kelvin over 25 °C."""

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    form: Annotated[FuseForm, about("Form", tip="Blade, bolt-down, or cartridge")]
    rating_a: Annotated[Positive, about("Rating", "A", tip="That it carries continuously at 25 °C")]
    voltage_dc_v: Annotated[Positive, about("DC voltage", "V", tip="Up to which it clears an arc")]
    breaking_a: Annotated[
        Positive, about("Breaking capacity", "A", tip="Most short-circuit current that it clears")
    ]
    band: Annotated[
        tuple[BandPoint, ...],
        about(
            "Melting band",
            min_length=2,
            max_length=40,
            tip="Times within which it opens, by current over rating",
        ),
    ] = BLADE_BAND
    derate_per_k: Annotated[
        float,
        about(
            "Loses per kelvin",
            "1/K",
            ge=0,
            le=0.02,
            tip="Share of its rating for each kelvin over 25 °C",
        ),
    ] = 0.002
    resistance_mohm: Annotated[Positive, about("Resistance", "mΩ", tip="Cold")]
    mass_g: Annotated[NotNegative, about("Mass", "g", tip="Of one")] = 0.0
    price: Annotated[NotNegative, about("Cost", "money", tip="Of one")]
    note: Annotated[str, about("Note", tip="Free text")] = ""
    guessed: Annotated[Guessed, about("Guessed", tip="Names of fields that nobody gave")] = ()
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        check_guessed(self)
        check_band("band", self.band)

    @property
    def points(self) -> tuple[tuple[float, float, float | None], ...]:
        """The melting band as plain numbers: times the rating, least and most seconds."""
        return tuple((point.ratio, point.least_s, point.most_s) for point in self.band)


class Wire(Document, frozen=True):
    """A stranded copper wire by the metre."""

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    area_mm2: Annotated[Positive, about("Section", "mm²", tip="Of copper")]
    outer_mm: Annotated[Positive, about("Outer diameter", "mm", tip="Over the insulation")]
    insulation: Annotated[Insulation, about("Insulation", tip="What it is made of")]
    mass_g_per_m: Annotated[NotNegative, about("Mass of a metre", "g", tip="With insulation")]
    price_per_m: Annotated[NotNegative, about("Cost of a metre", "money", tip="As it is sold")]
    note: Annotated[str, about("Note", tip="Free text")] = ""
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        copper = (4.0 * self.area_mm2 / 3.141592653589793) ** 0.5
        if self.outer_mm <= copper:
            raise Unfit(
                "",
                phrase(
                    "outer_mm must be over the {} mm that the copper alone measures",
                    digits(copper, ".2f"),
                ),
            )


def check_short(short_a: float, continuous_a: float) -> None:
    """Raise Unfit where a contact carries no more for a short time than for good."""
    if short_a <= continuous_a:
        raise Unfit(
            "",
            phrase(
                "short_a must be over continuous_a, {} A: for a short time a contact carries more",
                digits(continuous_a, "g"),
            ),
        )


class Connector(Document, frozen=True, kw_only=True):
    """A pair of connectors, mated; ``short_a`` is what it carries for ``short_s``."""

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    continuous_a: Annotated[
        Positive, about("Continuous current", "A", tip="Mated, at room temperature")
    ]
    short_a: Annotated[
        Positive, about("Short-time current", "A", tip="That it carries for short_s")
    ]
    short_s: Annotated[Positive, about("Short time", "s", tip="For which it carries short_a")]
    mated_mohm: Annotated[Positive, about("Resistance", "mΩ", tip="Of one mated pair of contacts")]
    voltage_dc_v: Annotated[Positive, about("DC voltage", "V", tip="That it is rated for")]
    anti_spark_ohm: (
        Annotated[
            Positive,
            about("Anti-spark resistor", "Ω", tip="In its first contact; none where not given"),
        ]
        | None
    ) = None
    anti_spark_j: (
        Annotated[Positive, about("Anti-spark energy", "J", tip="That its resistor takes at once")]
        | None
    ) = None
    mass_g: Annotated[NotNegative, about("Mass", "g", tip="Of the pair")] = 0.0
    price: Annotated[NotNegative, about("Cost", "money", tip="Of the pair")]
    note: Annotated[str, about("Note", tip="Free text")] = ""
    guessed: Annotated[Guessed, about("Guessed", tip="Names of fields that nobody gave")] = ()
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        check_guessed(self)
        check_short(self.short_a, self.continuous_a)
        if (self.anti_spark_ohm is None) != (self.anti_spark_j is None):
            raise Unfit("", "anti_spark_ohm and anti_spark_j belong together: both or neither")
        heat = self.continuous_a**2 * self.mated_mohm * 1e-3
        if heat > MOST_CONTACT_W:
            raise Unfit(
                "",
                phrase(
                    "impossible: {} W in the contacts at {} A; accepted: mated_mohm up to {}",
                    digits(heat, ".0f"),
                    digits(self.continuous_a, "g"),
                    digits(MOST_CONTACT_W / self.continuous_a**2 * 1000.0, ".2g"),
                ),
            )


# More heat than this no mated pair of contacts gives off without melting its housing.
MOST_CONTACT_W = 30.0


class Switch(Document, frozen=True, kw_only=True):
    """A switch in the main lead; ``hold_w`` is what keeps it closed."""

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    kind: Annotated[
        SwitchKind, about("Kind", tip="Switch, relay (contactor), breaker, or electronic")
    ]
    continuous_a: Annotated[Positive, about("Continuous current", "A", tip="Closed")]
    short_a: Annotated[
        Positive, about("Short-time current", "A", tip="That it carries for short_s")
    ]
    short_s: Annotated[Positive, about("Short time", "s", tip="For which it carries short_a")]
    breaking_a: Annotated[Positive, about("Breaks", "A", tip="Direct current that it interrupts")]
    voltage_dc_v: Annotated[Positive, about("DC voltage", "V", tip="At which it interrupts")]
    resistance_mohm: Annotated[Positive, about("Resistance", "mΩ", tip="Closed")]
    hold_w: Annotated[NotNegative, about("Holding power", "W", tip="That keeps it closed")] = 0.0
    mass_g: Annotated[NotNegative, about("Mass", "g", tip="Of one")] = 0.0
    price: Annotated[NotNegative, about("Cost", "money", tip="Of one")]
    note: Annotated[str, about("Note", tip="Free text")] = ""
    guessed: Annotated[Guessed, about("Guessed", tip="Names of fields that nobody gave")] = ()
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        check_guessed(self)
        check_short(self.short_a, self.continuous_a)


class Surge(Document, frozen=True, kw_only=True):
    """What limits the first rush of current.

    A thermistor stays in the path: ``ohm`` cold at 25 °C, ``beta_k`` how it falls, ``steady_a``
    what it carries, ``dissipation_w_per_k`` and ``time_constant_s`` how it warms and cools. A
    resistor or an anti-spark contact is bridged once the capacitors are full: ``energy_j`` is what
    it swallows at once, ``watts`` what it gives off for good.
    """

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    kind: Annotated[SurgeKind, about("Kind", tip="Thermistor (NTC), resistor, or anti-spark part")]
    ohm: Annotated[Positive, about("Resistance", "Ω", tip="At 25 °C")]
    energy_j: Annotated[Positive, about("Energy", "J", tip="That it takes at once")]
    beta_k: Annotated[Positive, about("B value", "K", tip="Of a thermistor")] | None = None
    steady_a: (
        Annotated[
            Positive,
            about("Steady current", "A", tip="Most that a thermistor carries continuously"),
        ]
        | None
    ) = None
    dissipation_w_per_k: (
        Annotated[Positive, about("Dissipation", "W/K", tip="Of a thermistor in still air")] | None
    ) = None
    time_constant_s: (
        Annotated[Positive, about("Time constant", "s", tip="Of its cooling")] | None
    ) = None
    watts: Annotated[Positive, about("Power", "W", tip="Of a resistor, continuous")] | None = None
    price: Annotated[NotNegative, about("Cost", "money", tip="Of one")]
    note: Annotated[str, about("Note", tip="Free text")] = ""
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        wanted = ("beta_k", "steady_a", "dissipation_w_per_k", "time_constant_s")
        missing = [name for name in wanted if getattr(self, name) is None]
        if self.kind == "thermistor" and missing:
            raise Unfit("", phrase("a thermistor needs {}", listed(missing)))
        if self.kind == "resistor" and self.watts is None:
            raise Unfit("", "a precharge resistor needs watts")
