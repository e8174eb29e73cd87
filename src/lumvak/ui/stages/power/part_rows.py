"""The places of the power path in words: what is in each, what it carries, and the options."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core import said as core_said
from lumvak.core.conductors.lead_wire import WireOption, wire_options
from lumvak.core.document.power import NONE
from lumvak.core.evaluation import Evaluation
from lumvak.core.power.connectors import drop_mv
from lumvak.core.power.fuses import hold_a
from lumvak.core.power.place import JudgedPart, Place
from lumvak.core.said import Text, listed, phrase
from lumvak.ui.speech import in_words, say, spoken
from lumvak.ui.widgets.rows import Row

# Place, name, and where it is set in the project; the last of wires is where the wire is named.
PLACES = (
    ("fuse", "main fuse", "power.fuse"),
    ("leads", "main leads", "leads.wire"),
    ("connector", "connector", "power.connector"),
    ("switch", "switch", "power.switch"),
    ("surge", "surge thermistor", "power.surge"),
    ("precharge", "precharge", "power.precharge"),
    ("charge-fuse", "charge fuse", "power.charge_fuse"),
    ("charge-leads", "charge leads", "charge_leads.wire"),
    ("balance-leads", "balance leads", ""),
)
PATHS = {key: path for key, _, path in PLACES}
# Places that are empty unless something is put there.
OPTIONAL = ("switch", "surge", "precharge")
CAN_BE_NONE = ("fuse", "charge-fuse", "connector", *OPTIONAL)
# Heads of the options of a place, each with its tip.
_FUSE = (
    ("rated", "Rating of the sheet"), ("carries", "Continuous: 80 % of the rating, less in the "
                                                  "heat"),
    ("volts", "Most DC volts that it breaks"), ("breaks", "Most current that it breaks"),
)  # fmt: skip
_CARRIES, _VOLTS = ("carries", "Continuous"), ("volts", "DC volts of its rating")
_DROPS = ("drops", "Lost in it at the continuous current")
_WIRE = (
    ("section", "Of the copper"), ("carries", "Continuous, by the sizing criterion of the leads"),
    ("both drop", "Lost in both leads at the continuous current"),
    ("rises", "Over the air, at the continuous current"),
)  # fmt: skip
_NONE = ("", "")
HEADS: dict[str, tuple[tuple[str, str], ...]] = {
    "fuse": _FUSE,
    "charge-fuse": _FUSE,
    "connector": (_CARRIES, ("for a while", "Its rating for a short time"), _VOLTS, _DROPS),
    "switch": (_CARRIES, ("breaks", "Most current that it breaks"), _VOLTS, _DROPS),
    "surge": (
        ("cold", "Resistance at 25 °C"), _CARRIES, ("takes", "Energy that it takes in at once"),
        ("cools with", "Time constant of its cooling"),
    ),
    "precharge": (
        ("ohm", "Its resistance"), ("takes", "Energy that it takes in at once"),
        ("watts", "Its continuous rating"), ("kind", "How it is switched"),
    ),
    "leads": _WIRE,
    "charge-leads": _WIRE,
    "balance-leads": (_NONE, _NONE, _NONE, _NONE),
}  # fmt: skip


class PlaceLine(Struct, frozen=True):
    """One place as a line: what is in it, what it carries, and what there is to say.

    ``about`` are the figures that are spoken of.
    """

    key: str
    name: str
    part: str
    carries: str
    says: Text
    bad: bool
    about: tuple[str, ...] = ()


def places_of(evaluation: Evaluation) -> dict[str, Place]:  # type: ignore[type-arg]
    """The places with parts to choose from."""
    power = evaluation.power
    return {
        "fuse": power.fuse,
        "connector": power.connector,
        "switch": power.switch,
        "surge": power.surge,
        "precharge": power.precharge,
        "charge-fuse": power.charge_fuse,
    }


def lines_of(evaluation: Evaluation) -> list[PlaceLine]:
    """Every place of the path."""
    places = places_of(evaluation)
    lines = []
    for key, name, _ in PLACES:
        if key in places:
            lines.append(_part_line(evaluation, key, name, places[key]))
        elif key == "balance-leads":
            fault = evaluation.figures["balance_leads.fault_a"].number
            fused = evaluation.project.balance_leads.fuse_a
            lines.append(
                PlaceLine(
                    key,
                    name,
                    part=say(evaluation.project.balance_leads.area_mm2, in_words("mm²")),
                    carries="—",
                    says=phrase("shorted {}; no fuse", core_said.say(fault, "A"))
                    if fused is None
                    else phrase(
                        "shorted {}; fused at {}",
                        core_said.say(fault, "A"),
                        core_said.say(fused, "A"),
                    ),
                    bad=False,
                    about=("balance_leads.fault_a", "balance_leads.fuse_a"),
                )
            )
        else:
            lines.append(_lead_line(evaluation, key, name))
    return lines


def _part_line(evaluation: Evaluation, key: str, name: str, place: Place) -> PlaceLine:  # type: ignore[type-arg]
    chosen = place.chosen
    if chosen is None:
        empty = "none" if not place.automatic else "none serves"
        return PlaceLine(key, name, empty, "—", _empty_says(evaluation, key), place.automatic)
    says = listed((point.text for point in chosen.reasons), "; ")
    if not says:
        says = _says(evaluation, key)
    about = tuple(
        f"power.{key.replace('-', '_')}_{name}"
        for name in ("hold_a", "a", "drop_mv", "s", "peak_a", "rating_a")
    )
    bad = bool(chosen.reasons)
    return PlaceLine(
        key,
        name,
        part=chosen.part.name,
        carries=_carries(evaluation, key),
        says=says,
        bad=bad,
        about=about,
    )


def _carries(evaluation: Evaluation, key: str) -> str:
    name = f"power.{key.replace('-', '_')}"
    figure = evaluation.figures.get(f"{name}_hold_a" if "fuse" in key else f"{name}_a")
    return "—" if figure is None else say(figure.value, "A")


def _empty_says(evaluation: Evaluation, key: str) -> Text:
    if key == "precharge" and evaluation.power.spark.number > 0.0:
        return phrase(
            "a spark of {} into the capacitors", core_said.say(evaluation.power.spark.value, "J")
        )
    if key == "surge" and evaluation.power.start is not None and evaluation.power.start.known:
        return phrase(
            "nothing limits a start of {}", core_said.say(evaluation.power.start.start_a, "A")
        )
    return "" if key in OPTIONAL else in_words("see what speaks against each below")


def _of(evaluation: Evaluation, key: str) -> Text:
    figure = evaluation.figures[key]
    return core_said.say(figure.value, figure.unit, key)


def _says(evaluation: Evaluation, key: str) -> Text:
    if key == "fuse":
        return in_words("as recommended") if evaluation.power.fuse.automatic else "serves"
    if key == "surge" and evaluation.power.hot is not None:
        return phrase(
            "{} lost, {}",
            core_said.say(evaluation.power.hot.watts, "W"),
            core_said.say(evaluation.power.hot.temperature_c, "°C"),
        )
    if key == "precharge":
        filled = evaluation.figures.get("power.precharge_s")
        peak = evaluation.figures.get("power.precharge_peak_a")
        if filled is not None and peak is not None:
            return phrase(
                "{} at most, full in {}",
                core_said.say(peak.value, "A"),
                core_said.say_delay(filled.number),
            )
    if key in ("connector", "switch"):
        return phrase("drops {}", _of(evaluation, f"power.{key}_drop_mv"))
    return "serves"


def _lead_line(evaluation: Evaluation, key: str, name: str) -> PlaceLine:
    path = key.replace("-", "_")
    wire = evaluation.sized.wire if key == "leads" else evaluation.power.charge_wire
    limit, drop = evaluation.figures[f"{path}.limit_a"], evaluation.figures[f"{path}.drop_v"]
    current = next(item for item in drop.inputs if item.unit == "A")
    rise = evaluation.figures[f"{path}.rise_k"]
    bad = limit.number < current.number - 1e-9
    says = phrase(
        "rises {} at {}, both drop {} and lose {}",
        _of(evaluation, rise.key),
        core_said.say(current.value, "A", current.key),
        core_said.say(drop.number * 1e3, in_words("mV"), drop.key),
        _of(evaluation, f"{path}.loss_w"),
    )
    about = (rise.key, drop.key, f"{path}.loss_w", current.key)
    return PlaceLine(
        key, name, part=wire.name, carries=say(limit.value, "A"), says=says, bad=bad, about=about
    )


def option_rows(evaluation: Evaluation, key: str) -> list[Row]:
    """What there is to choose from for a place: those that serve, then the refused and why."""
    places = places_of(evaluation)
    if key in places:
        place = places[key]
        taken = None if place.chosen is None else place.chosen.part.id
        first = place.found[0] if place.found else None
        # The part in force comes first where something speaks against it.
        found = sorted(place.found, key=lambda item: not (item.reasons and item.part.id == taken))
        rows = [
            _option_row(
                evaluation,
                key,
                item,
                item.part.id == taken,
                item is first and item.serves and key not in OPTIONAL,
            )
            for item in found
        ]
        if key in CAN_BE_NONE:
            empty = place.chosen is None and not place.automatic
            rows.append(
                Row(
                    ("none", "left out on purpose"),
                    value=NONE,
                    chosen=empty,
                    faded=not empty,
                    span=1,
                    key=NONE,
                )
            )
        return rows
    if key == "balance-leads":
        return []
    return [_wire_row(item, evaluation, key) for item in _wires(evaluation, key)]


def _wires(evaluation: Evaluation, key: str) -> tuple[WireOption, ...]:
    path = key.replace("-", "_")
    current = next(
        item for item in evaluation.figures[f"{path}.drop_v"].inputs if item.unit == "A"
    ).number
    return wire_options(
        evaluation.sized.parts.wires.values(),
        getattr(evaluation.project, path),
        current,
        evaluation.sized.demand.ambient.number,
    )


def _wire_row(item: WireOption, evaluation: Evaluation, key: str) -> Row:
    part = item.part
    named = getattr(evaluation.project, key.replace("-", "_")).wire
    return Row(
        (
            part.name,
            say(part.area_mm2, in_words("mm²")),
            say(item.limit_a, "A"),
            say(item.drop_v * 1e3, in_words("mV")),
            say(item.rise_k, "K") if item.rise_k < 1000.0 else "burns",
            say(item.cost, in_words("money")),
        ),
        value=part.id,
        chosen=part.id == named,
        faded=not item.serves,
        key=part.id,
    )


def _option_row(
    evaluation: Evaluation,
    key: str,
    item: JudgedPart,  # type: ignore[type-arg]
    chosen: bool,
    proposed: bool,
) -> Row:
    if item.reasons and not chosen:
        text = spoken(listed((point.text for point in item.reasons), "; "))
        if len(item.reasons) == 1:
            text += f". {spoken(item.reasons[0].help)}"
        return Row((item.part.name, text), value=item.part.id, faded=True, span=1, key=item.part.id)
    return Row(
        (item.part.name, *_cells(evaluation, key, item), say(item.part.price, in_words("money"))),
        value=item.part.id,
        chosen=chosen,
        proposed=proposed,
        marks={0: "crimson"} if item.reasons else {},
        key=item.part.id,
    )


def _cells(evaluation: Evaluation, key: str, item: JudgedPart) -> tuple[str, ...]:  # type: ignore[type-arg]
    part = item.part
    if key in ("fuse", "charge-fuse"):
        held = hold_a(part, evaluation.sized.demand.ambient.number)
        return (
            say(part.rating_a, "A"),
            say(held, "A"),
            say(part.voltage_dc_v, "V"),
            say(part.breaking_a, "A"),
        )
    if key == "connector":
        drop = drop_mv(part, evaluation.sized.pack.current.number)
        return (
            say(part.continuous_a, "A"),
            f"{say(part.short_a, 'A')} {say(part.short_s, 's')}",
            say(part.voltage_dc_v, "V"),
            say(drop, in_words("mV")),
        )
    if key == "switch":
        drop = drop_mv(part, evaluation.sized.pack.current.number)
        return (
            say(part.continuous_a, "A"),
            say(part.breaking_a, "A"),
            say(part.voltage_dc_v, "V"),
            say(drop, in_words("mV")),
        )
    if key == "surge":
        return (
            say(part.ohm, "Ω"),
            say(part.steady_a, "A"),
            say(part.energy_j, "J"),
            say(part.time_constant_s, "s"),
        )
    watts = "—" if part.watts is None else say(part.watts, "W")
    kind = "resistor" if part.kind == "resistor" else "first contact"
    return (say(part.ohm, "Ω"), say(part.energy_j, "J"), watts, kind)
