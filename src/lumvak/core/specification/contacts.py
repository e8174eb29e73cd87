"""What to look for in a connector and in a switch (methods 41): methods 22 as windows."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lumvak.core.catalogue.power_parts import Connector, Switch
from lumvak.core.document.power import NONE
from lumvak.core.evaluation import Evaluation
from lumvak.core.power.connectors import MARGIN, curve_of
from lumvak.core.said import phrase, say
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by, named

# Heat in a pair of contacts that a hand still bears at the housing, in W.
WARM_W = 3.0


def connector_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of the connector of an evaluation."""
    make, load = Maker("connector"), evaluation.sized.pack.current
    sparks = evaluation.power.spark.number > 0.0
    ohm = WARM_W / load.number**2
    return PartSpec(
        "connector",
        (
            *_carries(make, evaluation),
            make.window(
                "mated_mohm",
                "Resistance, mated",
                "mΩ",
                most=by(ohm * 1e3, "3 W in the contacts ÷ current²", load),
                set_by="heat of the contacts",
                reason="a warmer housing softens",
                must=False,
            ),
            make.window(
                "anti_spark_ohm",
                "Anti-spark contact",
                reason="a resistor that touches first; else precharge, or it sparks"
                if sparks
                else "not needed: nothing sparks",
            ),
        ),
    )


def switch_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of a switch in the main lead; one need not be there."""
    make, load = Maker("switch"), evaluation.sized.pack.current
    breaks = make.window(
        "breaking_a",
        "Breaks at its voltage",
        "A",
        least=by(load.number, "what is drawn continuously", load),
        set_by="continuous load",
        reason="its contacts weld or go on burning else",
    )
    needed = evaluation.project.power.switch != NONE
    return PartSpec("switch", (*_carries(make, evaluation), breaks), needed=needed)


def _carries(make: Maker, evaluation: Evaluation) -> Iterator[FigureWindow]:
    pack, demand = evaluation.sized.pack, evaluation.sized.demand
    load, draw = pack.current, evaluation.sized.drawn.limited
    yield make.window(
        "continuous_a",
        "Continuous current",
        "A",
        least=by(load.number, "what is drawn continuously", load),
        wanted=by(MARGIN * load.number, "a fifth over what is drawn: contacts wear", load),
        set_by="continuous load",
        reason="printed amps are often of a thick cable, in free air",
    )
    yield make.window(
        "short_a",
        phrase("Holds for {}", say(draw.peak_s, "s")),
        "A",
        least=by(draw.peak_a, "the peak", demand.peak, demand.peak_duration),
        at_s=draw.peak_s,
        set_by="peak",
        reason="its contacts anneal and lose their spring else",
    )
    yield make.window(
        "voltage_dc_v",
        "DC voltage",
        "V",
        least=by(pack.full.number, "full voltage of the pack", pack.full),
        set_by="full voltage",
        reason="alternating volts on a label do not count",
    )


def contact_missed(
    spec: PartSpec, part: Connector | Switch, evaluation: Evaluation
) -> tuple[str, ...]:
    """Fields of a connector or switch that lie outside the windows that must hold."""
    given: dict[str, float | str] = {
        "continuous_a": part.continuous_a,
        "voltage_dc_v": part.voltage_dc_v,
    }
    if isinstance(part, Switch):
        given["breaking_a"] = part.breaking_a
    drawn = evaluation.sized.drawn.limited.curve
    holds = bool(np.all(drawn <= curve_of(part) * (1.0 + 1e-9)))
    missed = named(spec.windows, given)
    return missed if holds or "continuous_a" in missed else (*missed, "short_a")
