"""What there is to notice on the power path: board, fuse, leads, connectors, starts, rest."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.bms.verdicts import BoardChoice
from lumvak.core.conductors.lead_wire import LeadWire
from lumvak.core.document.power import AS_SPECIFIED_ID, Leads, PowerParts, Protection, Rest
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import TOUCH_SAFE_V, Finding
from lumvak.core.figures.link import Link
from lumvak.core.need.rails import RailLoad
from lumvak.core.power.as_specified import nearest_in, specified_note
from lumvak.core.power.findings_board import board_findings, least_short_findings, settings_findings
from lumvak.core.power.findings_fuse import fuse_findings, order_findings
from lumvak.core.power.findings_rest import rail_findings, rest_findings
from lumvak.core.power.power_path import Power
from lumvak.core.power.surge import SPARK_J
from lumvak.core.said import phrase, say

# So much more than the weakest the others carry before it is called the real limit.
REAL_LIMIT, FUSE_LIMIT = 1.1, 2.0


def power_findings(
    power: Power,
    boards: BoardChoice,
    chain: tuple[Link, ...],
    weakest: Link | None,
    wire: LeadWire,
    one_port: bool,
    leads: Leads,
    charge_leads: Leads,
    protection: Protection,
    parts: PowerParts,
    rest: Rest,
    rails: tuple[RailLoad, ...],
    full: Figure,
) -> tuple[Finding, ...]:
    """Everything to notice on the power path.

    ``weakest`` is the weakest link of the ``chain``; ``one_port`` where the equipment has two
    contacts; ``full`` is the full voltage of the pack.
    """
    return (
        *_leads(power, chain, wire, leads, charge_leads),
        *board_findings(boards, one_port),
        *least_short_findings(power),
        *settings_findings(power, protection),
        *fuse_findings(power, parts, wire, leads, charge_leads),
        *_contacts(power),
        *_surges(power),
        *order_findings(power, boards.verdict),
        *_real_limit(chain, weakest),
        *rest_findings(power.shelf, rest),
        *rail_findings(rails),
        *_over_60_v(full),
    )


def _leads(
    power: Power, chain: tuple[Link, ...], wire: LeadWire, leads: Leads, charge_leads: Leads
) -> Iterator[Finding]:
    for lead in chain:
        if lead.key != "leads" or not lead.bursts:
            continue
        yield Finding(
            "leads-limit",
            "stop",
            text=phrase(
                "The main leads carry {}, the load draws {} and {} at its peak",
                say(lead.continuous_a, "A"),
                say(lead.demand_a, "A"),
                say(lead.peak_demand_a, "A"),
            ),
            why=phrase("{}, by {}.", wire.name, leads.school),
            do="Take a thicker wire.",
            stage="power",
            figure="leads.limit_a",
        )
    charge, flows = power.charge_wire.limit, power.charge_current
    if charge.number < flows.number - 1e-9:
        yield Finding(
            "charge-leads-limit",
            "stop",
            text=phrase(
                "The charge leads carry {}, the charger gives {}",
                say(charge.value, "A"),
                say(flows.value, "A"),
            ),
            why=phrase("{}, by {}.", power.charge_wire.name, charge_leads.school),
            do="Take a thicker wire.",
            stage="power",
            figure=charge.key,
        )


def _contacts(power: Power) -> Iterator[Finding]:
    for code, place in (("connector", power.connector), ("switch", power.switch)):
        chosen = place.chosen
        if chosen is not None and chosen.part.id == AS_SPECIFIED_ID:
            own = place.automatic
            figure = f"power.{code}_a"
            yield specified_note(code, code, nearest_in(place), figure, chosen=not own)
        for reason in () if chosen is None else chosen.reasons:
            yield Finding(
                f"{code}-{reason.code}",
                "stop",
                text=phrase("{}: {}", chosen.part.name if chosen else "", reason.text),
                why=phrase("It is the {} that was picked.", code),
                do=reason.help,
                stage="power",
                figure=f"power.{code}_a",
            )


def _surges(power: Power) -> Iterator[Finding]:
    for code, place, why, figure in (
        ("surge", power.surge, "A surge thermistor limits one start from cold.", "power.surge_a"),
        (
            "precharge",
            power.precharge,
            "Plugged in slowly or often it would burn out.",
            "power.precharge_j",
        ),
    ):
        for reason in () if place.chosen is None else place.chosen.reasons:
            name = "" if place.part is None else place.part.name
            text = phrase("{} {}", name, reason.text)
            yield Finding(
                f"{code}-{reason.code}",
                "warn",
                text=text,
                why=why,
                do=reason.help,
                stage="power",
                figure=figure,
            )
    if power.spark.number > SPARK_J:
        yield Finding(
            "spark",
            "note" if power.capacitance.assumed else "warn",
            text=phrase(
                "Plugging in sparks: {} go into the controller's capacitors",
                say(power.spark.value, "J"),
            ),
            why="The spark pits the contacts a little each time, and frightens.",
            do="Take an anti-spark connector, or precharge through a resistor.",
            stage="power",
            figure=power.spark.key,
        )


def _real_limit(chain: tuple[Link, ...], link: Link | None) -> Iterator[Finding]:
    """A lead, a connector or another small part that sets the rating of all the rest."""
    small = ("leads", "connector", "switch", "fuse", "surge", "take-offs")
    if link is None or link.key not in small or link.bursts:
        return
    cells, *_ = chain
    others = [item.continuous_a for item in chain if item.key != link.key]
    # A fuse is meant to be the least of all.
    times = FUSE_LIMIT if link.key == "fuse" else REAL_LIMIT
    if min(others) > times * link.continuous_a:
        yield Finding(
            f"{link.key}-set-rating",
            "note",
            text=phrase(
                "The {} set the rating, {}"
                if link.key in ("leads", "take-offs")
                else "The {} sets the rating, {}",
                link.name,
                say(link.continuous_a, "A"),
            ),
            why=phrase(
                "All else carries {}, the cells {}.",
                say(min(others), "A"),
                say(cells.continuous_a, "A"),
            ),
            do="See “rating” for what the next larger one buys.",
            stage=link.stage,
            figure=link.limit.key,
            beside=("rating.others_a", cells.limit.key),
        )


def _over_60_v(full: Figure) -> Iterator[Finding]:
    if full.number > TOUCH_SAFE_V:
        yield Finding(
            "power-over-60-v",
            "warn",
            text=phrase("Over 60 V DC: {} at these terminals", say(full.number, "V")),
            why="Beyond what is usually treated as touch-safe; an arc of direct current does not "
            "go out by itself.",
            do="Parts rated for it, covered terminals, insulated tools, local rules, and a "
            "competent person.",
            stage="power",
            figure="pack.voltage_full_v",
        )


def power_cautions() -> tuple[Finding, ...]:
    """What holds of every power path."""
    return (
        Finding(
            "measure-first",
            "note",
            "Nothing here certifies: thresholds, trips and rises are to be measured",
            "Bands and limits are typical ones; parts and contacts differ. A trip says that "
            "something is past its limit: never bypass a BMS to get rid of it.",
            "Try each cut-off with a bench supply and a load, feel the leads after an hour, and "
            "keep to local rules and licensed practice.",
            "power",
        ),
    )
