"""What to look for around the path (methods 41): balance leads, sensor, holders, barriers, wrap."""

from __future__ import annotations

from lumvak.core.arrangement.findings import barrier_for
from lumvak.core.conductors.lead_wire import outer_mm
from lumvak.core.conductors.strip_and_wire import lead_film, wire_current_a
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import typed
from lumvak.core.said import phrase
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by

# Section of balance leads: strong enough to crimp, thin enough to melt before it warms a bundle.
LEAD_MM2 = (0.08, 0.52)
# A shrink sleeve is bought so much wider than half of what it goes around.
SLEEVE = 1.08
# What a balance lead may warm by.
RISE_K = 35.0


def balance_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of the balance leads, with their metres."""
    make, pack = Maker("balance-leads"), evaluation.sized.pack
    wanted, fault = evaluation.project.balance_leads, evaluation.laid_out.tap.fault
    length = evaluation.figures["layout.taps_m"]
    area = typed("balance_leads.area_mm2", "Section of a balance lead", wanted.area_mm2, "mm²")
    count, film = pack.series.number + 1.0, lead_film(False)
    carries = wire_current_a(wanted.area_mm2, outer_mm(wanted.area_mm2), RISE_K, film)
    windows = (
        make.window(
            "pins",
            "Leads on the plug",
            least=by(count, "in series + 1", pack.series),
            most=by(count, "in series + 1", pack.series),
            set_by="count of the pack",
            reason="some plugs leave the lowest to the main lead: the sheet of the BMS tells",
        ),
        make.window(
            "area_mm2",
            "Section of the copper",
            "mm²",
            least=by(LEAD_MM2[0], "usual crimps hold no thinner", area),
            most=by(LEAD_MM2[1], "usual plugs take no thicker", area),
            wanted=by(wanted.area_mm2, "as set", area),
            set_by="plug",
            reason="silicone or PTFE, in several colours",
            must=False,
        ),
        make.window(
            "fuse_a",
            "Fuse in each",
            "A",
            most=by(carries, "what the lead carries continuously", area, fault),
            set_by="section of the lead",
            reason="close to the cells; else insulate and strip one at a time",
            must=False,
        ),
        make.window(
            "voltage_v",
            "Insulation for",
            "V",
            least=by(pack.full.number, "full voltage of the pack", pack.full),
            set_by="full voltage",
            reason="they cross places of other potential",
            must=False,
        ),
    )
    return PartSpec("balance-leads", windows, quantity=length.number, unit="m")


def sensor_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of the temperature sensor."""
    make, asked = Maker("sensor"), evaluation.sized.boards.setting.protection.sensor
    wanted = typed("protection.sensor", "Temperature sensor wanted", "yes", "", True)
    board = evaluation.sized.boards.board
    many = max(1, 0 if board is None else board.sensors) if asked else 0
    windows = (
        make.window(
            "count",
            "Sensors",
            least=by(1.0, "as asked", wanted) if asked else None,
            set_by="charging in the cold" if asked else "",
            reason="between cells at the warmest, insulated from the can",
        ),
        make.window(
            "ohm",
            "Resistance at 25 °C",
            reason="the one that the sheet of the BMS names; 10 kΩ is usual",
        ),
    )
    return PartSpec("sensor", windows, quantity=float(many), needed=asked)


def holder_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of holders for round cells; flat ones have none."""
    make, cell = Maker("holder"), evaluation.sized.choice.cell
    choice, arrangement = evaluation.sized.choice, evaluation.project.arrangement
    round_ = cell.diameter_mm is not None
    laid = evaluation.laid_out.lay.base
    apart = next((item for item in laid if item.unit == "mm"), None)
    windows: tuple[FigureWindow, ...] = ()
    if round_ and apart is not None:
        pitch = arrangement.pitch_mm or cell.pitch_mm + evaluation.project.joints.gap_mm
        diameter = evaluation.sized.sized_pack.from_sheet("diameter_mm", "Diameter", "mm")
        windows = (
            make.window(
                "diameter_mm",
                "Takes cells of",
                "mm",
                least=by(cell.diameter_mm or 0.0, "diameter of the cell", diameter),
                most=by((cell.diameter_mm or 0.0) + 0.6, "diameter of the cell + 0.6 mm", diameter),
                set_by="cell",
                reason="tighter tears the wrapper, looser shakes",
                must=False,
            ),
            make.window(
                "pitch_mm",
                "Pitch",
                "mm",
                wanted=by(pitch, "as the cells are laid", apart),
                reason="what the pack is laid with; another changes its size and strips",
                must=False,
            ),
        )
    places = 2.0 * choice.series * choice.parallel if round_ else 0.0
    return PartSpec("holder", windows, quantity=places, needed=False)


def barrier_spec(evaluation: Evaluation) -> PartSpec:
    """The barriers between cans, and the sleeve around the pack."""
    make, volts = Maker("barrier"), evaluation.laid_out.barriers.volts
    sides = {item.key.rpartition(".")[2]: item for item in evaluation.laid_out.lay.size}
    windows = []
    if len(volts):
        worst = float(volts.max())
        places = evaluation.laid_out.lay.places
        windows.append(
            make.window(
                "sheet",
                "Between cans",
                wanted=by(worst, "most volts between two cans side by side", *places),
                unit="V",
                set_by="volts between cans",
                reason=phrase("{}, in {} places", barrier_for(worst), len(volts)),
                must=False,
            )
        )
    names = [key for key in sides if key.startswith(("width", "height"))]
    across = [sides[key] for key in names]
    if len(across) == 2:
        half = across[0].number + across[1].number
        windows.append(
            make.window(
                "flat_mm",
                "Shrink sleeve, lying flat",
                "mm",
                least=by(SLEEVE * half, "(width + height) × 1.08", *across),
                set_by="size of the pack",
                reason="it shrinks by about half; ends are closed with fibre",
                must=False,
            )
        )
    return PartSpec(
        "barrier", tuple(windows), quantity=max(1.0, float(len(volts))), needed=bool(windows)
    )
