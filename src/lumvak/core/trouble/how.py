"""How each reading is taken safely, and which speaks for a cause or against it."""

from __future__ import annotations

from lumvak.core.said import Text, capital, listed, phrase, say
from lumvak.core.trouble.diagnosis import Diagnosis, RankedCause
from lumvak.core.trouble.readings import EFFORTS, TroubleReading

PLACES: dict[str, str] = {
    "terminals": "one probe on each pole of the pack's own plug",
    "pack": "one probe on either outer end of the cells, before the BMS",
    "group": "one probe on each of the two balance leads of the group, at their plug",
    "groups": "one probe on each of two neighbouring balance leads at their plug, group by group",
    "tap": "one probe on the lowest balance lead, one on this one, at their plug",
    "joint": "one probe on the strip before the connection, one on that after it",
    "bms": "one probe on the − of the cells, one on the − of the output, across the BMS",
    "fuse": "one probe on each side of the main fuse",
    "connector": "one probe on each side of the plug while it is together",
    "charger": "one probe on each pole of the charger's plug",
    "shown": "read what the BMS shows of the group",
}
PLACES_SHOWN = "read what the BMS shows of all groups"
STATES: dict[str, str] = {
    "rest": "nothing drawn, the BMS awake",
    "asleep": "left alone until the BMS sleeps",
    "load": "while {} are drawn, by the equipment or a lamp",
    "charge": "with the charger on, {} at most",
    "after": "{} after all was switched off and the charger was touched once",
}
COVER: dict[str, str] = {
    "meter only": "Rings off; let the probes touch nothing else.",
    "plug in reach": "Rings off; cover the other pins, for two that touch burn their leads.",
    "wrapper off": "Rings off, eyes covered, all metal around covered but the two points; one hand "
    "where it can be.",
}
OVER_60_V = "Over 60 V DC is dangerous to touch."
IN_OHM = "with everything unplugged and nothing drawn, in ohm, the probes held together first"
MANY, LESS = 1.6, 0.6


def place_said(place: str) -> Text:
    """A place in words: the terminals, group 3, lead 0, connection 2."""
    kind, _, number = place.partition(":")
    names = {
        "group": "group {}",
        "tap": "balance lead {}",
        "joint": "series connection {}",
        "shown": "group {} as the BMS shows it",
    }
    if number:
        return phrase(names[kind], int(number))
    whole = {
        "groups": "all groups",
        "shown": "all groups as the BMS shows them",
        "pack": "the pack before its BMS",
        "bms": "across the BMS",
        "fuse": "across the fuse",
        "connector": "across the connector",
        "group": "one of the groups",
        "joint": "one of the series connections",
        "terminals": "the terminals",
        "charger": "the charger",
    }
    return whole[place]


def cause_said(cause: RankedCause) -> Text:
    """A cause in words, and where it is as far as that is known."""
    if ":" in cause.where or cause.where in ("group", "joint"):
        return phrase("{}, {}", cause.cause.words, place_said(cause.where))
    return cause.cause.words


def state_said(state: str, amount: float) -> Text:
    """A state in words; ``amount`` is its amps, or its seconds."""
    unit = "s" if state == "after" else "A"
    words = STATES[state]
    return phrase(words, say(amount, unit)) if "{}" in words else words


def how_said(place: str, state: str, amount: float, in_ohm: bool, full_v: float) -> Text:
    """How a reading is taken safely.

    ``amount`` is the amps or seconds of the state; ``full_v`` is that of the whole pack.
    """
    return phrase("{} {}", *probes_said(place, state, amount, in_ohm, full_v))


def probes_said(
    place: str, state: str, amount: float, in_ohm: bool, full_v: float
) -> tuple[Text, Text]:
    """Where the probes go and in which state; what is to be covered.

    ``amount`` is the amps or seconds of the state; ``full_v`` is that of the whole pack.
    """
    kind = place.partition(":")[0]
    words = PLACES_SHOWN if place == "shown" else PLACES[kind]
    told: list[Text] = [words, IN_OHM if in_ohm else state_said(state, amount)]
    if not in_ohm and kind != "shown":
        span = full_v if kind in ("terminals", "pack", "tap", "bms", "fuse", "charger") else 6.0
        told.append(phrase("in a range of volts over {}", say(span, "V")))
    cover: Text = COVER[EFFORTS[kind][0]]
    if full_v > 60.0:
        cover = phrase("{} {}", cover, OVER_60_V)
    return phrase("{}.", capital(listed(told, ", "))), cover


def value_said(reading: TroubleReading) -> Text:
    """What was read."""
    value = reading.value
    if isinstance(value, str):
        return value
    if isinstance(value, tuple):
        return listed([say(it, "V") for it in value], " ")
    return say(value, "ohm" if reading.in_ohm else "V")


def reading_said(reading: TroubleReading) -> Text:
    """A reading in a line: where, in which state, what it showed."""
    return phrase(
        "{}, {}: {}",
        place_said(reading.place),
        "in ohm" if reading.in_ohm else state_said(reading.state, reading.amount),
        value_said(reading),
    )


def speaking(found: Diagnosis, cause: RankedCause) -> tuple[Text, Text]:
    """The reading that speaks most for a cause, and the one that speaks most against it."""
    told = found.speaks(cause)
    best = max(told, key=lambda it: it[1], default=None)
    worst = min(told, key=lambda it: it[1], default=None)
    for_it: Text = "how common it is for this complaint"
    against: Text = "nothing that was read"
    if best is not None and best[1] > MANY:
        for_it = reading_said(best[0])
    if worst is not None and worst[1] < LESS:
        against = reading_said(worst[0])
    return for_it, against
