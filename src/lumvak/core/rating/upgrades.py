"""What the next upgrade would buy: the weakest link raised, then the next, with what each costs."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.bms.verdicts import BoardChoice
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import Fuse
from lumvak.core.conductors.lead_wire import wire_limit_a
from lumvak.core.document.power import Leads, School, picking
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.link import Link
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.power.fuses import hold_a
from lumvak.core.power.power_path import Power
from lumvak.core.said import Text, digits, phrase
from lumvak.core.sizing.choice import Choice

MOST_STEPS = 6
LIKE = 1e-6
# Links that are one strip: who raises one raises the other.
SAME_STRIP = {"group-joints": ("take-offs",), "take-offs": ("group-joints",)}
# A fuse may be larger than the wire allows only where no other is on offer.
BARRING = {"voltage", "breaking", "never", "melts"}


class Upgrade(Struct, frozen=True):
    """One upgrade: which link, from and to which rating of the pack, by what, at what cost.

    ``changes`` of the project, by dotted path, take it; empty where it takes more than a part.
    ``cost`` is ``None`` where no part on offer does it.
    """

    link: str
    name: Text
    from_a: float
    to_a: float
    what: Text
    cost: float | None
    changes: tuple[tuple[str, Any], ...] = ()

    @property
    def in_vain(self) -> bool:
        """Whether the rating stays where it was, because another link is as weak."""
        return self.cost is not None and self.to_a <= self.from_a * (1.0 + 1e-6)


class _Lifted(Struct, frozen=True):
    limit_a: float
    what: Text
    cost: float
    changes: tuple[tuple[str, Any], ...] = ()


class PathInHand(Struct, frozen=True, eq=False):
    """The path as it is, of which a link is to be raised.

    ``full`` is the full voltage of the pack; ``leads`` and ``school`` are the builder's.
    """

    chain: tuple[Link, ...]
    catalogue: Catalogue
    choice: Choice
    group: JointResult
    series: JointResult
    school: School
    link_a: float | None
    leads: Leads
    power: Power
    boards: BoardChoice
    ambient: Figure
    full: Figure


def upgrades(seen: PathInHand) -> tuple[Upgrade, ...]:
    """The next upgrades in order, each of the link that is then the weakest (methods 13)."""
    links = {link.key: link for link in seen.chain}
    limits = {link.key: link.continuous_a for link in seen.chain}
    steps: list[Upgrade] = []
    while len(steps) < MOST_STEPS:
        finite = {key: amps for key, amps in limits.items() if math.isfinite(amps)}
        if len(finite) < 2:
            break
        weakest = min(finite, key=lambda key: finite[key])
        now = finite.pop(weakest)
        target = min(amps for amps in finite.values())
        if target <= now * (1.0 + LIKE):
            # As weak as another: raising one alone buys nothing yet.
            target = next(
                (amps for amps in sorted(finite.values()) if amps > now * (1.0 + LIKE)), now
            )
        name = links[weakest].name
        raised = _raise(seen, links[weakest], target)
        if raised is None:
            steps.append(Upgrade(weakest, name, now, now, "nothing on offer does it", None))
            break
        for same in SAME_STRIP.get(weakest, ()):
            if same in limits:
                limits[same] *= raised.limit_a / now
        limits[weakest] = raised.limit_a
        reached = min(limits.values())
        steps.append(
            Upgrade(
                weakest,
                name,
                from_a=now,
                to_a=reached,
                what=raised.what,
                cost=raised.cost,
                changes=raised.changes,
            )
        )
    return tuple(steps)


def _raise(seen: PathInHand, link: Link, target_a: float) -> _Lifted | None:
    """The cheapest change that raises one link to a current at least."""
    key = link.key
    if key in ("series-joints", "group-joints", "take-offs"):
        result = seen.series if key == "series-joints" else seen.group
        return _more_strip(result, link, target_a, seen.school)
    if key == "cells":
        return _more_cells(seen.choice, link.continuous_a, target_a)
    if key == "link":
        return _larger_links(seen.link_a or 0.0, link.continuous_a, target_a)
    makers: dict[str, Callable[[PathInHand, float], _Lifted | None]] = {
        "leads": _thicker_wire,
        "fuse": _larger_fuse,
        "board": _larger_board,
        "connector": _larger_connector,
        "switch": _larger_switch,
        "surge": _larger_surge,
    }
    maker = makers.get(key)
    return None if maker is None else maker(seen, target_a)


def _more_cells(choice: Choice, now: float, target_a: float) -> _Lifted | None:
    wanted = math.ceil(target_a / (now / choice.parallel) - LIKE)
    if wanted > 500:
        return None
    more = (wanted - choice.parallel) * choice.series
    return _Lifted(
        now * wanted / choice.parallel,
        phrase("{} in parallel: {} more cells", wanted, more),
        more * choice.cell.price,
    )


def _larger_links(rating: float, now: float, target_a: float) -> _Lifted | None:
    wanted = math.ceil(rating * target_a / now * 2.0) / 2.0
    return _Lifted(now * wanted / rating, phrase("links of {} A", digits(wanted, "g")), 0.0)


def _more_strip(result: JointResult, link: Link, target_a: float, school: School) -> _Lifted | None:
    # Candidates count with even sharing; what the solve makes of the one in force scales them.
    scale = link.continuous_a / result.chosen.limits_a[school]
    series = result.setting.role == "series"
    joints = result.setting.series - 1 if series else 2 * result.setting.series
    across = 1 if series else max(1, result.setting.parallel - 1)
    best: _Lifted | None = None
    for item in result.found:
        limit = item.limits_a[school] * scale
        if item.barred or item.part.material == "plated steel":
            continue
        if limit < target_a * (1.0 - LIKE):
            continue
        length_m = item.section.length_mm * 1e-3 * joints * across * item.strips * item.layers
        cost = length_m * item.part.price_per_m
        if best is None or cost < best.cost:
            strip = f"joints.{result.setting.role}"
            changes = {
                f"{strip}.part": item.part.id,
                f"{strip}.layers": item.layers,
                f"{strip}.width_mm": None,
            }
            best = _Lifted(limit, item.name, cost, tuple(changes.items()))
    return best


def _thicker_wire(seen: PathInHand, target_a: float) -> _Lifted | None:
    leads, ambient = seen.leads, seen.ambient.number
    return _cheapest(
        seen.catalogue.wires.values(),
        lambda wire: wire_limit_a(wire, leads, ambient),
        target_a,
        "leads.wire",
        lambda wire: 2.0 * leads.length_m * wire.price_per_m,
    )


def _larger_fuse(seen: PathInHand, target_a: float) -> _Lifted | None:
    ambient = seen.ambient.number
    able = [
        item
        for item in seen.power.fuse.found
        if not BARRING & {point.code for point in item.reasons}
    ]
    guarding = [item.part for item in able if item.against("wire") is None]

    def limit_a(fuse: Fuse) -> float:
        return hold_a(fuse, ambient)

    found = _cheapest(guarding, limit_a, target_a, "power.fuse")
    if found is not None:
        return found
    found = _cheapest([item.part for item in able], limit_a, target_a, "power.fuse")
    # Larger than the wire allows: it is told with the step.
    return (
        None if found is None else replace(found, what=phrase("{}, and a thicker wire", found.what))
    )


def _larger_board(seen: PathInHand, target_a: float) -> _Lifted | None:
    made, board = seen.power.made, seen.power.board
    if (
        made is not None
        and board is not None
        and board.continuous_a < made.continuous_a
        and (made.continuous_a >= target_a * (1.0 - LIKE))
    ):
        return _Lifted(made.continuous_a, "set its slow level higher", 0.0)
    able = [item.board for item in seen.boards.own if item.serves]
    return _cheapest(able, lambda board: board.continuous_a, target_a, "protection.board")


def _larger_connector(seen: PathInHand, target_a: float) -> _Lifted | None:
    able = [
        part for part in seen.catalogue.connectors.values() if part.voltage_dc_v >= seen.full.number
    ]
    return _cheapest(able, lambda part: part.continuous_a, target_a, "power.connector")


def _larger_switch(seen: PathInHand, target_a: float) -> _Lifted | None:
    full = seen.full.number
    able = [
        part
        for part in seen.catalogue.switches.values()
        if part.voltage_dc_v >= full and part.breaking_a >= target_a
    ]
    return _cheapest(able, lambda part: part.continuous_a, target_a, "power.switch")


def _larger_surge(seen: PathInHand, target_a: float) -> _Lifted | None:
    able = [part for part in seen.catalogue.surges.values() if part.kind == "thermistor"]
    return _cheapest(able, lambda part: part.steady_a or 0.0, target_a, "power.surge")


def _cheapest(
    parts: Iterable[Any],
    limit_a: Callable[[Any], float],
    target_a: float,
    path: str,
    cost: Callable[[Any], float] = lambda part: float(part.price),
) -> _Lifted | None:
    able = [part for part in parts if limit_a(part) >= target_a * (1.0 - LIKE)]
    if not able:
        return None
    best = min(able, key=lambda part: (cost(part), limit_a(part)))
    return _Lifted(limit_a(best), str(best.name), cost(best), tuple(picking(path, best.id).items()))
