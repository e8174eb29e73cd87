"""What to look for in strip and bar (methods 41): methods 8 to 10 as windows."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from typing import get_args

from msgspec import Struct

from lumvak.core.catalogue.conductors import Conductor, MaterialName
from lumvak.core.document.joints import Joints
from lumvak.core.document.shopping import PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure, typed
from lumvak.core.joints.candidates import MOST_BARS, MOST_LAYERS, Candidate, fitted_width, judged
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by

# How cells of a format are joined; others are welded.
JOINS = {"prismatic": ("screw",), "pouch": ("weld", "solder")}
METALS: tuple[MaterialName, ...] = get_args(MaterialName)
# Nothing sets the width of what may be wider than this.
WIDEST_MM = 500.0


def joints_spec(key: PartKey, evaluation: Evaluation) -> PartSpec:
    """The windows of the conductors of a role, and how many metres the cut list takes."""
    asked = joint_asked(key, evaluation)
    result = asked.result
    flows = math.isfinite(result.chosen.limits_a[asked.joints.school])
    metres = sum(
        cut.size.length_mm * cut.count / 1000.0
        for cut in evaluation.cuts
        if cut.size.part_id == result.chosen.part.id
    )
    return PartSpec(
        key,
        tuple(_windows(key, asked, evaluation)),
        quantity=metres,
        unit="m",
        needed=result.setting.joints > 0 and flows,
    )


class JointAsked(Struct, frozen=True, eq=False):
    """The joints of a role, and how many times more than by even sharing is asked of them.

    ``over`` and ``over_peak`` come from the network as solved with the conductor in force; those of
    another are taken to be alike.
    """

    result: JointResult
    joints: Joints
    over: float
    over_peak: float

    def share(self, laid: Candidate) -> float:
        """What is asked of the busiest piece, as a share of what a conductor carries."""
        setting, school = self.result.setting, self.joints.school
        return max(
            self.over * setting.current_a / laid.limits_a[school],
            self.over_peak * setting.peak_a / laid.peak_limits_a[school],
        )

    def laid(self, part: Conductor, layers: int) -> Candidate:
        """A conductor in place of that in force, as many side by side."""
        setting, strips = self.result.setting, self.result.chosen.strips
        width = fitted_width(part, setting.role, setting.bed(self.joints), strips)
        return judged(part, width, layers, strips, setting, self.joints)


def joint_asked(key: PartKey, evaluation: Evaluation) -> JointAsked:
    """What is asked of the series connections, or of the group strips, of an evaluation."""
    laid_out, joints = evaluation.laid_out, evaluation.project.joints
    result = laid_out.series if key == "series" else laid_out.group
    link = evaluation.path.joints.of_role(result.setting.role)
    if link is None or math.isinf(link.continuous_a):
        return JointAsked(result, joints, result.over, result.over)
    chosen, school = result.chosen, joints.school
    return JointAsked(
        result,
        joints,
        over=chosen.limits_a[school] / link.continuous_a,
        over_peak=chosen.peak_limits_a[school] / link.peak_a,
    )


def _windows(key: PartKey, asked: JointAsked, evaluation: Evaluation) -> Iterator[FigureWindow]:
    """The windows of a role. It is long, for each has its reason in words."""
    make, result, joints = Maker(key), asked.result, asked.joints
    chosen, pack, demand = result.chosen, evaluation.sized.pack, evaluation.sized.demand
    school = typed("joints.school", "Sizing criterion", joints.school, "")
    made_from: tuple[Figure, ...] = (pack.current, demand.peak, demand.peak_duration, school)
    yield make.window(
        "area_mm2",
        "Section, all layers and strips together",
        "mm²",
        least=by(
            asked.share(chosen) * _area_mm2(chosen),
            "section of the one in force × load ÷ what it carries",
            *made_from,
        ),
        set_by="load by the sizing criterion",
        reason="of the same metal; copper does with a quarter of nickel",
    )
    yield make.window(
        "join",
        "Joined by",
        one_of=JOINS.get(result.setting.cell.format, ("weld",)),
        set_by="cells",
        reason="screws are for posts, solder heats a cell",
    )
    yield make.window(
        "material",
        "Metal",
        one_of=(chosen.part.material,),
        set_by="sizing criterion",
        reason="pure nickel: plated steel has twice its resistance, and rusts"
        if chosen.part.material == "nickel"
        else "another metal asks for another section",
        must=False,
    )
    welds = typed(
        "joints.welder_limit_mm", "Thickest nickel the welder joins", joints.welder_limit_mm, "mm"
    )
    yield make.window(
        "thickness_mm",
        "Thickness of a layer",
        "mm",
        most=by(joints.welder_limit_mm, "what the welder joins", welds)
        if chosen.part.join == "weld"
        else None,
        set_by="welder" if chosen.part.join == "weld" else "",
        reason="more layers in place of a thicker one",
    )
    widest = result.setting.widths.widest_mm(key == "series")
    yield make.window(
        "width_mm",
        "Width",
        "mm",
        most=by(widest, "what may lie there beside other metal", pack.full)
        if widest < WIDEST_MM
        else None,
        set_by="clearance" if widest < WIDEST_MM else "",
        reason="a wider one comes near metal of another potential",
    )


def _area_mm2(laid: Candidate) -> float:
    return laid.section.area_m2 * 1e6 * laid.strips


def conductor_missed(spec: PartSpec, part: Conductor, asked: JointAsked) -> tuple[str, ...]:
    """Fields of a conductor that lie outside the windows that must hold, laid as that in force.

    One of another metal or shape counts by what it carries; where no current flows in any, all do.
    """
    if not spec.needed:
        return ()
    laid = asked.laid(part, asked.result.chosen.layers)
    small = asked.share(laid) > 1.0 + 1e-9
    return (*(("area_mm2",) if small else ()), *_barred_by(spec, laid))


def _barred_by(spec: PartSpec, laid: Candidate) -> tuple[str, ...]:
    """The field for which a conductor cannot be laid here."""
    if not laid.barred:
        return ()
    part = laid.part
    if not spec.of("join").takes(part.join):
        return ("join",)
    hard = part.weld_equivalent_mm or part.thickness_mm
    return ("width_mm",) if spec.of("thickness_mm").takes(hard) else ("thickness_mm",)


def conductor_in_hand(given: Mapping[str, float | str], asked: JointAsked) -> Candidate | None:
    """A conductor of the figures given, in as many layers as carry the load or may be laid.

    Its metal, and how it is joined, are as of the one in force where they are not given; ``None``
    where its thickness is not known, or the width of what is no sheet.
    """
    like = asked.result.chosen.part
    thickness, width = given.get("thickness_mm"), given.get("width_mm")
    metal, join = given.get("material"), given.get("join")
    if width is None and like.form == "sheet":
        width = like.width_mm
    if not isinstance(thickness, float | int) or not isinstance(width, float | int):
        return None
    part = Conductor(
        id="in-hand",
        name="in hand",
        material=next((it for it in METALS if it == metal), like.material),
        form="sheet" if width >= WIDEST_MM else "busbar" if like.form == "busbar" else "strip",
        thickness_mm=float(thickness),
        width_mm=float(width),
        join="screw" if join == "screw" else "solder" if join == "solder" else like.join,
        price_per_m=0.0,
    )
    most = MOST_BARS if part.form == "busbar" else MOST_LAYERS
    ways = [asked.laid(part, layers) for layers in range(1, most + 1)]
    enough = (it for it in ways if asked.share(it) <= 1.0 + 1e-9)
    return next(enough, ways[-1])


def section_worth_mm2(laid: Candidate, asked: JointAsked) -> float:
    """The section of the metal in force in mm² that carries as much as a conductor in hand."""
    share, chosen = asked.share(laid), asked.result.chosen
    if not share:
        return _area_mm2(laid)
    return asked.share(chosen) * _area_mm2(chosen) / share
