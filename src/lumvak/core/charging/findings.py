"""What there is to notice about charging: the cold, the ceiling, the charger, the groups."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.balancing.balancing import Balancing
from lumvak.core.balancing.groups_now import GroupsNow
from lumvak.core.balancing.imbalance import Imbalance
from lumvak.core.balancing.never import Never
from lumvak.core.catalogue.cells import Cell
from lumvak.core.charging.absolute import LimitPassed
from lumvak.core.charging.charger import LEAST_FULL, ChargeSetting
from lumvak.core.charging.reasons import VerdictKind, end_current
from lumvak.core.charging.verdict import ChargerVerdict
from lumvak.core.document.charging import Charging
from lumvak.core.document.need import Kind
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding, Severity
from lumvak.core.said import Text, capital, phrase, say, say_hours, sentences

STAGE = "charging"
VERDICT_SAYS: dict[VerdictKind, str] = {
    "right": "is right", "short": "undercharges: it stops below full",
    "over-ceiling": "goes over your charge limit", "leans": "relies on the BMS cut-off",
    "wrong": "is wrong for this pack: do not connect it",
}  # fmt: skip
SEVERITY: dict[VerdictKind, Severity] = {
    "right": "note", "short": "note", "over-ceiling": "note", "leans": "warn", "wrong": "stop",
}  # fmt: skip


def cold_findings(cell: Cell, coldest: Figure) -> Iterator[Finding]:
    """Whether the cell may be charged where the pack works."""
    if coldest.number < cell.charge_min_c:
        yield Finding(
            "cold-charge",
            "warn",
            text=phrase("Do not charge at {}", say(coldest.number, "°C")),
            why=phrase(
                "This cell may be charged from {} up; colder, metal plates out inside it.",
                say(cell.charge_min_c, "°C"),
            ),
            do="Warm the pack before charging and take a BMS with a temperature sensor.",
            stage="need",
            figure=coldest.key,
        )


def ceiling_findings(cell: Cell, ceiling_v: float | None) -> Iterator[Finding]:
    """Whether the ceiling is one that the cell bears."""
    if ceiling_v is not None and ceiling_v > cell.voltage_full_v:
        yield Finding(
            "ceiling-too-high",
            "stop",
            text=phrase("A charge limit of {} overcharges {}", say(ceiling_v, "V"), cell.name),
            why=phrase("The cell is full at {}.", say(cell.voltage_full_v, "V")),
            do="Lower the charge limit, or leave it empty.",
            stage="need",
            figure="charge.voltage_v",
        )


def charging_findings(
    charging: Charging,
    kind: Kind,
    setting: ChargeSetting,
    verdict: ChargerVerdict,
    now: GroupsNow,
    stand: Imbalance,
    balancing: Balancing,
    never: Never | None,
    window_problem: Text,
    waits: LimitPassed | None,
) -> Iterator[Finding]:
    """What there is to notice about the charger and the groups of equipment of a ``kind``."""
    if waits is not None and waits.code == "group-dead":
        yield Finding(
            waits.code,
            "stop",
            text=phrase("Never charge it so: {}", waits.text),
            why=waits.means,
            do=waits.do,
            stage=STAGE,
            figure="charging.least_ah",
        )
    elif waits is not None and verdict.kind != "wrong":
        yield Finding(
            "charge-waits",
            "note",
            text=waits.text,
            why=waits.means,
            do=waits.do,
            stage=STAGE,
            figure="charge.voltage_v",
        )
    if kind == "vehicle":
        yield _braking(setting)
    yield from _charger(verdict, setting, charging.start)
    if window_problem and setting.asked_v <= setting.cell.voltage_full_v:
        yield Finding(
            "floor-over-ceiling",
            "stop",
            text=capital(window_problem),
            why="Nothing is left between them.",
            do="Lower the discharge limit.",
            stage=STAGE,
            figure="charge.voltage_v",
        )
    if verdict.kind in ("right", "over-ceiling"):
        yield from _lamp(balancing, end_current(verdict.charger))
    yield from _groups(stand, balancing, never, now)


def _lamp(balancing: Balancing, end_a: float) -> Iterator[Finding]:
    """Whether what is bled keeps a charger from turning off at ``end_a``."""
    bleed = balancing.bleed
    if bleed is None or bleed.spread_v is not None or bleed.most is not None:
        return
    if bleed.at(bleed.from_v) < end_a:
        return
    yield Finding(
        "lamp-waits",
        "warn",
        text=phrase(
            "The charger turns off under {}, and {} bleeds by {}: it never does",
            say(end_a, "A"),
            balancing.name,
            say(bleed.at(bleed.from_v), "A"),
        ),
        why=phrase(
            "Once all groups are bled that goes on for as long as the charger is "
            "connected, and warms by {}.",
            say(balancing.heat_w, "W"),
        ),
        do="Pull the plug once no volts change any more, or take a bleed that looks at the others.",
        stage=STAGE,
        figure="charging.bleed_a",
        beside=("charging.end_a",),
    )


def _braking(setting: ChargeSetting) -> Finding:
    """What charge from braking does to a pack that is full."""
    volts = say(setting.volts.number, "V")
    return Finding(
        "braking-full",
        "note",
        text="A vehicle that charges by braking meets a full pack at the top of the first hill",
        why="The BMS opens, the brake is gone at once, and the controller sees its volts jump.",
        do=phrase(
            "Set it to give nothing back over {} and no more than {}; stop a charge a "
            "little lower where the way begins downhill. A brake that works without it "
            "stays.",
            volts,
            say(setting.most_cells.number, "A", setting.most_cells.key),
        ),
        stage=STAGE,
        figure=setting.volts.key,
    )


def _charger(verdict: ChargerVerdict, setting: ChargeSetting, start: float) -> Iterator[Finding]:
    charger, volts = verdict.charger, setting.volts
    present_v = setting.present_v(start)
    if charger.kind != "nickel" and charger.volts <= present_v:
        yield Finding(
            "charger-under",
            "warn",
            text=phrase(
                "The charger gives {}, the pack stands at {} from {} on",
                say(charger.volts, "V"),
                say(present_v, "V"),
                say(start, "%"),
            ),
            why="Nothing flows.",
            do=phrase("Take one for {}.", say(volts.number, "V")),
            stage=STAGE,
            figure=volts.key,
        )
    if verdict.kind == "right":
        return
    says = VERDICT_SAYS[verdict.kind] if verdict.kind != "leans" else verdict.kind_words
    text = phrase("The charger {}", says)
    why = sentences(*(item.text for item in verdict.reasons if item.kind == verdict.kind))
    another = verdict.kind == "short" and charger.volts < setting.present_v(LEAST_FULL)
    yield Finding(
        f"charger-{verdict.kind}",
        "warn" if another else SEVERITY[verdict.kind],
        text=text,
        why=sentences(why, verdict.board_fails),
        do=verdict.instead,
        stage=STAGE,
        figure="charging.stops_share",
        beside=(volts.key, "charging.amps_a"),
    )


def _helps(balancing: Balancing, never: Never | None) -> Text:
    """What brings groups together that are out of step."""
    if not balancing.works:
        return (
            "Nothing that is chosen balances them: take a BMS that balances, resistors, or do "
            "it by hand."
        )
    if never is not None or balancing.hours is None:
        return phrase("As it is charged, {} does not balance them: see why.", balancing.name)
    return phrase(
        "Held at the top, {} needs some {} for it. Whether it comes to that as the "
        "pack is used, the view of the groups tells.",
        balancing.name,
        say_hours(balancing.hours),
    )


def _groups(
    stand: Imbalance, balancing: Balancing, never: Never | None, now: GroupsNow
) -> Iterator[Finding]:
    if never is not None and never.stop:
        yield Finding(
            "evens-stop",
            "stop",
            text=capital(never.because),
            why="It can burn, or harm a cell permanently.",
            do=never.would,
            stage=STAGE,
            figure="charging.even_h",
            beside=("charging.bleed_a",),
        )
    if not set(now.share_from) - {"assumed"}:
        return
    if stand.cause in ("out-of-step", "both"):
        yield Finding(
            "groups-out-of-step",
            "warn",
            text=phrase(
                "Groups are out of balance: {} cannot be used", say(stand.by_step_ah, "Ah")
            ),
            why=phrase(
                "Group {} is full first, group {} empty first. Nothing is wrong with the cells "
                "by that alone.",
                stand.first_full,
                stand.first_empty,
            ),
            do=_helps(balancing, never),
            stage=STAGE,
            figure="charging.out_of_step_ah",
            beside=("charging.even_h",),
        )
    if stand.cause in ("small", "both"):
        yield Finding(
            "groups-small",
            "note",
            text=phrase(
                "Group {} is small: {} less than the middle one",
                stand.smallest,
                say(stand.by_size_ah, "Ah"),
            ),
            why="It is full first and empty first; balancing gives nothing back.",
            do="Stronger cells in that group, or count on what it has.",
            stage=STAGE,
            figure="charging.too_small_ah",
        )
    if never is not None and not never.stop:
        yield Finding(
            "never-even",
            "warn",
            text=phrase("{} never balances the groups", capital(balancing.name)),
            why=phrase("{}.", capital(never.because)),
            do=never.would,
            stage=STAGE,
            figure="charging.even_h",
            beside=("charging.bleed_a",),
        )
