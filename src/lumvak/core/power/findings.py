"""What there is to notice on the power path: board, fuse, leads, connectors, starts, rest."""

from __future__ import annotations

import math
from collections.abc import Iterator

from lumvak.core.catalogue.boards import KIND_LOSSES
from lumvak.core.catalogue.power_parts import Fuse
from lumvak.core.conductors.lead_wire import LeadWire
from lumvak.core.document.power import NONE, Leads, PowerParts, Protection, Rest
from lumvak.core.figures.figure import Figure, in_line
from lumvak.core.figures.finding import TOUCH_SAFE_V, Finding
from lumvak.core.figures.link import Link
from lumvak.core.need.rails import RailLoad
from lumvak.core.power.at_rest import Shelf
from lumvak.core.power.board_verdicts import BoardChoice, Verdict
from lumvak.core.power.opening_order import Pair
from lumvak.core.power.place import Place
from lumvak.core.power.power_path import Power
from lumvak.core.power.surge import SPARK_J
from lumvak.core.units import say, say_about

# So much more than the weakest the others carry before it is called the real limit.
REAL_LIMIT = 1.1


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
        *_board(boards, one_port),
        *_settings(power, protection),
        *_fuse(power, parts),
        *_contacts(power),
        *_surges(power),
        *_order(power, boards.verdict),
        *_real_limit(chain, weakest),
        *_rest(power.shelf, rest),
        *_rails(rails),
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
            f"The main leads carry {say(lead.continuous_a, 'A')}, the load draws "
            f"{say(lead.demand_a, 'A')} and {say(lead.peak_demand_a, 'A')} at its peak",
            f"{wire.name}, by the {leads.school} school.",
            "Take a thicker wire.",
            "power",
            "leads.limit_a",
        )
    charge, flows = power.charge_wire.limit, power.charge_current
    if charge.number < flows.number - 1e-9:
        yield Finding(
            "charge-leads-limit",
            "stop",
            f"The charge leads carry {say(charge.value, 'A')}, the charger gives "
            f"{say(flows.value, 'A')}",
            f"{power.charge_wire.name}, by the {charge_leads.school} school.",
            "Take a thicker wire.",
            "power",
            charge.key,
        )


def _board(boards: BoardChoice, one_port: bool) -> Iterator[Finding]:
    verdict, first = boards.verdict, boards.first
    if verdict is None:
        near = first
        yield Finding(
            "no-board",
            "stop",
            "No board in the catalogue serves this pack",
            f"Nearest: {near.board.name} {near.reasons[0].text}."
            if near
            else "The catalogue has none.",
            near.rescue or "Relax a condition, choose another series count, or add a board."
            if near
            else "Add a board to your own parts.",
            "power",
        )
        return
    board = verdict.board
    for reason in verdict.reasons:
        yield Finding(
            f"board-{reason.code}",
            "stop",
            f"{board.name} {reason.text}",
            "The board was picked although this speaks against it.",
            f"Take {first.board.name}. Or: {in_line(reason.help)}".removesuffix(" Or: ")
            if first is not None and first.serves
            else reason.help or "Relax a condition.",
            "power",
            "start.current_a" if reason.code == "start" else "board.continuous_a",
        )
    for remark in verdict.remarks:
        yield Finding(
            f"board-{remark.code}-remark",
            "note",
            f"{board.name} {remark.text}",
            KIND_LOSSES[board.kind].capitalize() + "."
            if KIND_LOSSES[board.kind]
            else "It serves all the same.",
            remark.help or "Check it against the cell's sheet before trusting it.",
            "power",
            {"heat": "board.rise_k", "bleed": "board.bleed_h"}.get(
                remark.code, "board.continuous_a"
            ),
        )
    if one_port:
        yield Finding(
            "one-port",
            "note",
            "Two contacts: charge and discharge share one port",
            "A board with a separate charge port would leave one of them unprotected.",
            "Only boards with one port are offered.",
            "power",
        )


def _settings(power: Power, protection: Protection) -> Iterator[Finding]:
    board = power.board
    if board is None:
        return
    for row in power.settings:
        if not row.problem or not board.adjustable:
            continue
        yield Finding(
            "setting-beyond",
            "stop",
            f"{row.name}: {say(row.value, row.unit)} is {row.problem.partition('; ')[0]}",
            f"Proposed is {say(row.wanted, row.unit)}: {row.reason}.",
            row.problem.partition("; ")[2].capitalize() + ".",
            "power",
        )
    typed = [item.key for item in protection.settings]
    if typed and not board.adjustable:
        yield Finding(
            "settings-unused",
            "note",
            f"{board.name} cannot be set: {len(typed)} of your settings lie idle",
            "They come into force with a board that can be set.",
            "Take one that can, or clear them.",
            "power",
        )


def _fuse(power: Power, wanted: PowerParts) -> Iterator[Finding]:
    yield from _fuse_in(power.short_a, power.fuse, wanted.fuse, "fuse", "main fuse")
    if power.fuse.part is not None and wanted.fuse_place == "output":
        yield Finding(
            "fuse-late",
            "warn",
            "The main fuse sits at the output: a short before it is not guarded",
            "Leads, board and joints lie between the cells and the fuse.",
            "Set it as near to the cells' positive end as can be.",
            "power",
            "power.fuse_a",
        )
    yield from _fuse_in(
        power.short_a, power.charge_fuse, wanted.charge_fuse, "charge-fuse", "charge fuse"
    )


def _fuse_in(
    short: Figure, place: Place[Fuse], wanted: str | None, code: str, name: str
) -> Iterator[Finding]:
    chosen = place.chosen
    if chosen is None:
        near = next(iter(place.found), None)
        missing = wanted == NONE
        yield Finding(
            f"no-{code}",
            "warn" if missing else "stop",
            f"There is no {name}" if missing else f"No {name} in the catalogue serves",
            f"A short circuit gives {say(short.value, 'A')}, and nothing but the board ends it."
            if missing or near is None
            else f"Nearest: {near.part.name} {near.reasons[0].text}.",
            "Boards fail closed; a fuse does not."
            if missing or near is None
            else near.reasons[0].help,
            "power",
            short.key,
        )
        return
    for reason in chosen.reasons:
        yield Finding(
            f"{code}-{reason.code}",
            "stop",
            f"{chosen.part.name}, the {name}, {reason.text}",
            {
                "load": "It would melt under normal load, or grow tired until it does.",
                "melts": "It would melt in normal use.",
                "never": "In a short circuit it would go on glowing.",
                "wire": "The wire would burn before it opens.",
            }.get(reason.code, "It could not end a short circuit safely."),
            reason.help,
            "power",
            short.key
            if reason.code in ("never", "breaking")
            else f"power.{code.replace('-', '_')}_hold_a",
        )


def _contacts(power: Power) -> Iterator[Finding]:
    for code, place in (("connector", power.connector), ("switch", power.switch)):
        chosen = place.chosen
        if chosen is None and place.automatic:
            yield Finding(
                f"no-{code}",
                "warn",
                f"No {code} in the catalogue serves",
                f"Nearest: {place.found[0].part.name} {place.found[0].reasons[0].text}."
                if place.found
                else "The catalogue has none.",
                "Two in parallel do not share evenly; add a larger one to your own parts.",
                "power",
            )
        for reason in () if chosen is None else chosen.reasons:
            yield Finding(
                f"{code}-{reason.code}",
                "stop",
                f"{chosen.part.name if chosen else ''}: {reason.text}",
                f"It is the {code} that was picked.",
                reason.help,
                "power",
                f"power.{code}_a",
            )


def _surges(power: Power) -> Iterator[Finding]:
    for code, place, why, figure in (
        ("surge", power.surge, "A surge thermistor limits one start from cold.", "power.surge_a"),
        ("precharge", power.precharge, "Plugged in slowly or often it would burn out.",
         "power.precharge_j"),
    ):  # fmt: skip
        for reason in () if place.chosen is None else place.chosen.reasons:
            name = "" if place.part is None else place.part.name
            text = f"{name} {reason.text}"
            yield Finding(f"{code}-{reason.code}", "warn", text, why, reason.help, "power", figure)
    if power.spark_j > SPARK_J:
        yield Finding(
            "spark",
            "note" if power.capacitance.assumed else "warn",
            f"Plugging in sparks: {say(power.spark_j, 'J')} go into the controller's capacitors",
            "The spark pits the contacts a little each time, and frightens.",
            "Take an anti-spark connector, or precharge through a resistor.",
            "power",
            "power.capacitance_uf",
        )


def _order(power: Power, verdict: Verdict | None) -> Iterator[Finding]:
    wrong = [pair for pair in power.pairs if not pair.holds]
    for pair in wrong:
        if pair.first not in ("load", "surge"):
            continue
        since = pair.fails_s[0][0]
        code = {"fuse": "fuse-melts", "link": "links-melt"}.get(pair.second, "board-trips")
        if code == "board-trips" and verdict is not None and verdict.reasons:
            # The board's own reasons already tell which stage it is.
            continue
        if pair.second == "fuse" and power.fuse.chosen and power.fuse.chosen.reasons:
            continue
        yield Finding(
            code,
            "stop",
            f"The {pair.first} opens the {pair.names[1]}, from {say_about(since)} on",
            f"It is over by {say(-pair.margin_a, 'A')} at {say_about(pair.at_s)}.",
            "A part with more headroom, a shorter peak, or a gentler start.",
            "power",
        )
    late = [pair for pair in wrong if pair.first == "board" and pair.second in ("fuse", "link")]
    for pair in late:
        yield Finding(
            "fuse-before-board" if pair.second == "fuse" else "links-before-board",
            "note",
            f"The {pair.names[1]} may melt before the board opens, from {_spell(pair)}",
            "An overload then costs a fuse instead of a wait.",
            "A slower or larger fuse, where the wire allows it; else live with it.",
            "power",
        )
    bare = [pair for pair in wrong if pair.first in ("board", "fuse") and pair not in late]
    guarded = {pair.second for pair in power.pairs if pair.first == "fuse" and pair.holds}
    open_ = sorted({pair.names[1] for pair in bare if pair.second not in guarded})
    if open_ and power.fuse.part is not None:
        yield Finding(
            "overload-unguarded",
            "note",
            f"A lasting overload harms {' and '.join(open_)} before anything opens",
            "Neither board nor fuse opens soon enough for every current over the load.",
            "See “what opens first”; a smaller fuse, a lower board setting, or a larger part.",
            "power",
        )


def _spell(pair: Pair) -> str:
    first, last = pair.fails_s[0]
    return f"{say_about(first)} to {say_about(last)}"


def _real_limit(chain: tuple[Link, ...], link: Link | None) -> Iterator[Finding]:
    """A lead, a connector or another small part that sets the rating of all the rest."""
    small = ("leads", "connector", "switch", "fuse", "surge", "take-offs")
    if link is None or link.key not in small or link.bursts:
        return
    cells, *_ = chain
    others = [item.continuous_a for item in chain if item.key != link.key]
    if min(others) > REAL_LIMIT * link.continuous_a:
        yield Finding(
            f"{link.key}-set-rating",
            "note",
            f"The {link.name} set{'' if link.key in ('leads', 'take-offs') else 's'} the rating, "
            f"{say(link.continuous_a, 'A')}",
            f"All else carries {say(min(others), 'A')}, the cells {say(cells.continuous_a, 'A')}.",
            "See “rating” for what the next larger one buys.",
            link.stage,
            link.limit.key,
        )


def _rest(shelf: Shelf, rest: Rest) -> Iterator[Finding]:
    total, cut = shelf.total_days.value, shelf.cut_days.value
    cut_days = math.inf if cut is None else float(cut)
    harm_days = math.inf if total is None else float(total)
    if harm_days < rest.days:
        yield Finding(
            "shelf-flat",
            "stop" if cut_days < 1.0 else "warn",
            f"Left for {rest.days:g} days it is harmed after {harm_days:.0f}",
            f"It cuts off after {cut_days:.0f} days, and is drained further from there.",
            "Switch off meter and converter, take a board that draws less, put it away fuller, or "
            "recharge in time.",
            "power",
            "rest.total_days",
        )
    elif cut_days < rest.days:
        yield Finding(
            "shelf-cuts",
            "warn",
            f"Left for {rest.days:g} days it is found dead: it cuts off after {cut_days:.0f}",
            f"From there it has about {harm_days - cut_days:.0f} days until its cells are harmed.",
            "Switch off meter and converter, or recharge before.",
            "power",
            "rest.cut_days",
        )


def _rails(rails: tuple[RailLoad, ...]) -> Iterator[Finding]:
    for load in rails:
        fuse, flows = load.rail.fuse_a, load.given_w.number / load.rail.volts
        if fuse is not None and flows > 0.8 * fuse + 1e-9:
            yield Finding(
                "rail-fuse",
                "stop" if flows > fuse else "warn",
                f"Rail {load.rail.name} draws {say(flows, 'A')} through a fuse of {say(fuse, 'A')}",
                "A fuse is loaded to 80 % of its rating for good.",
                f"Take {say(flows / 0.8, 'A')} or more, if the rail's wire carries it.",
                "power",
                load.given_w.key,
            )
        elif fuse is None:
            yield Finding(
                "rail-unfused",
                "note",
                f"Rail {load.rail.name} has no fuse of its own",
                "A short on it is left to the converter or the main fuse.",
                f"Fuse it at {say(max(1.0, flows / 0.8), 'A')} or a little more.",
                "power",
                load.given_w.key,
            )


def _over_60_v(full: Figure) -> Iterator[Finding]:
    if full.number > TOUCH_SAFE_V:
        yield Finding(
            "power-over-60-v",
            "warn",
            f"Over 60 V DC: {say(full.number, 'V')} at these terminals",
            "Beyond what is usually treated as touch-safe; an arc of direct current does not go "
            "out by itself.",
            "Parts rated for it, covered terminals, insulated tools, local rules, and a competent "
            "person.",
            "power",
            "pack.voltage_full_v",
        )


def power_cautions() -> tuple[Finding, ...]:
    """What holds of every power path."""
    return (
        Finding(
            "no-bypass",
            "note",
            "Do not bypass a BMS to get rid of a trip",
            "The trip says that something is past its limit.",
            "Find out which limit, with the path below.",
            "power",
        ),
        Finding(
            "measure-first",
            "note",
            "Nothing here certifies: thresholds, trips and rises are to be measured",
            "Bands and limits are typical ones; parts and contacts differ.",
            "Try each cut-off with a bench supply and a load, feel the leads after an hour, and "
            "keep to local rules and licensed practice.",
            "power",
        ),
    )
