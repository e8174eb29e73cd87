"""What to look for in strip and bar (methods 41): methods 8 to 10 as windows."""

from __future__ import annotations

import math
from collections.abc import Iterator

from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.conductors.strip_and_wire import MATERIALS
from lumvak.core.document.shopping import PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure, typed
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by


def joints_spec(key: PartKey, evaluation: Evaluation) -> PartSpec:
    """The windows of the conductors of a role, and how many metres the cut list takes."""
    result = evaluation.laid_out.series if key == "series" else evaluation.laid_out.group
    metres = sum(
        cut.size.length_mm * cut.count / 1000.0
        for cut in evaluation.cuts
        if cut.size.part_id == result.chosen.part.id
    )
    return PartSpec(
        key,
        tuple(_windows(key, result, evaluation)),
        quantity=metres,
        unit="m",
        needed=result.setting.joints > 0 and math.isfinite(_limit(result, evaluation)),
    )


def _limit(result: JointResult, evaluation: Evaluation) -> float:
    """What the conductor in force carries by the criterion, infinite where nothing flows in it."""
    return result.chosen.limits_a[evaluation.project.joints.school]


def _windows(key: PartKey, result: JointResult, evaluation: Evaluation) -> Iterator[FigureWindow]:
    make, joints = Maker(key), evaluation.project.joints
    chosen, pack, demand = result.chosen, evaluation.sized.pack, evaluation.sized.demand
    limit, peak = _limit(result, evaluation), chosen.peak_limits_a[joints.school]
    asked = max(pack.current.number / limit, demand.peak.number / peak) * result.over
    school = typed("joints.school", "Sizing criterion", joints.school, "")
    made_from: tuple[Figure, ...] = (pack.current, demand.peak, demand.peak_duration, school)
    area = chosen.section.area_m2 * 1e6 * chosen.strips
    yield make.window(
        "area_mm2",
        "Section, all layers and strips together",
        "mm²",
        least=by(asked * area, "section of the one in force × load ÷ what it carries", *made_from),
        set_by="load by the sizing criterion",
        reason="of the same metal; copper does with a quarter of nickel",
    )
    yield make.window(
        "material",
        "Metal",
        one_of=(chosen.part.material,),
        set_by="sizing criterion",
        reason="pure nickel: plated steel has twice its resistance, and rusts",
        must=False,
    )
    if chosen.part.join == "weld":
        welds = typed(
            "joints.welder_limit_mm",
            "Thickest nickel the welder joins",
            joints.welder_limit_mm,
            "mm",
        )
        yield make.window(
            "thickness_mm",
            "Thickness of a layer",
            "mm",
            most=by(joints.welder_limit_mm, "what the welder joins", welds),
            set_by="welder",
            reason="more layers in place of a thicker one",
        )
    widest = result.setting.widths.widest_mm(key == "series")
    if widest < WIDEST_MM:
        yield make.window(
            "width_mm",
            "Width",
            "mm",
            most=by(widest, "what may lie there beside other metal", pack.full),
            set_by="clearance",
            reason="a wider one comes near metal of another potential",
        )


# Nothing sets the width of what may be wider than this.
WIDEST_MM = 500.0


def conductor_missed(spec: PartSpec, part: Conductor, result: JointResult) -> tuple[str, ...]:
    """Fields of a conductor that lie outside the windows that must hold, laid as that in force.

    One of another metal counts by its resistivity.
    """
    chosen = result.chosen
    same = chosen.section.material.resistivity_ohm_m / MATERIALS[part.material].resistivity_ohm_m
    laid = chosen.layers * chosen.strips
    area = part.thickness_mm * part.width_mm * laid * same
    given = {"area_mm2": area, "thickness_mm": part.thickness_mm, "width_mm": part.width_mm}
    return tuple(
        window.name
        for window in spec.windows
        if window.must and window.name in given and not window.takes(given[window.name])
    )
