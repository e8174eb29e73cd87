"""What to look for in a fuse (methods 41): the conditions of methods 22 as windows."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.power_parts import FUSE_FORMS, Fuse
from lumvak.core.conductors.lead_wire import LeadWire
from lumvak.core.document.shopping import PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure
from lumvak.core.power.as_specified import usual_rating_a
from lumvak.core.power.fuses import (
    BREAKING_SPARE,
    SHORT_OPENS_S,
    FuseSetting,
    best_form,
    fuse_curves,
    hold_a,
    opens_wrongly,
    rating_window,
)
from lumvak.core.said import phrase, say
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by, named
from lumvak.core.time_current import TIMES_S, Array, at_time

# Times at which what the wire bears is told, in s.
TOLD_S = (1.0, 10.0)
# What it holds is told where it steps down by so much, of so many times, none shorter than this.
STEP_DOWN, MOST_TOLD, SHORTEST_TOLD_S = 1.05, 2, 0.05
LEAST_BY = {"load": "continuous load", "melts": "peak"}
LEAST_RULES = {
    "load": "load ÷ (80 % × what the heat leaves of a rating)",
    "melts": "smallest that holds what is drawn at every time",
}
MOST_BY = {"wire": "wire behind it", "never": "least short circuit"}
MOST_RULES = {
    "wire": "largest that has opened before the wire is harmed",
    "never": "largest that the least short circuit opens in 5 s",
}


class FuseAsked(Struct, frozen=True, eq=False):
    """What is asked of a fuse, and the figures that it comes from."""

    key: PartKey
    setting: FuseSetting
    load: Figure
    peaks: tuple[Figure, ...]
    wire: LeadWire
    full: Figure
    short: Figure
    least_short: Figure
    ambient: Figure


def main_fuse_asked(evaluation: Evaluation) -> FuseAsked:
    """What is asked of the main fuse of an evaluation."""
    sized = evaluation.sized
    draw, demand = sized.drawn.limited, sized.demand
    peaks = (demand.peak, demand.peak_duration, *sized.drawn.figures)
    return _asked("fuse", evaluation, draw.curve, sized.wire, sized.pack.current, peaks)


def charge_fuse_asked(evaluation: Evaluation) -> FuseAsked:
    """What is asked of the charge fuse of an evaluation."""
    flows, wire = evaluation.power.charge_current, evaluation.power.charge_wire
    drawn = np.full(TIMES_S.shape, flows.number)
    return _asked("charge-fuse", evaluation, drawn, wire, flows, (flows,))


def _asked(
    key: PartKey,
    evaluation: Evaluation,
    drawn_a: Array,
    wire: LeadWire,
    load: Figure,
    peaks: tuple[Figure, ...],
) -> FuseAsked:
    full, ambient = evaluation.sized.pack.full, evaluation.sized.demand.ambient
    short, least = evaluation.power.short_a, evaluation.power.short_least_a
    setting = FuseSetting(
        load.number,
        drawn_a,
        harm_a=wire.harm_a,
        full_v=full.number,
        short_a=short.number,
        least_short_a=least.number,
        ambient_c=ambient.number,
        wire=wire.name,
    )
    return FuseAsked(
        key,
        setting,
        load=load,
        peaks=peaks,
        wire=wire,
        full=full,
        short=short,
        least_short=least,
        ambient=ambient,
    )


def fuse_spec(asked: FuseAsked) -> PartSpec:
    """The windows of a fuse."""
    return PartSpec(asked.key, (*_ratings(asked), *_plain(asked), *_holds(asked), *_opens(asked)))


def _ratings(asked: FuseAsked) -> Iterator[FigureWindow]:
    """A window of the rating for each form, by the band that is usual for it."""
    make = Maker(asked.key)
    windows = {form: rating_window(form, asked.setting) for form in FUSE_FORMS}
    serving = tuple(form for form, window in windows.items() if not window.empty)
    for form, words in FUSE_FORMS.items():
        found = windows[form]
        low = (asked.load,) if found.least_by == "load" else asked.peaks
        high = (asked.wire.area,) if found.most_by == "wire" else (asked.least_short,)
        yield make.window(
            "rating_a",
            phrase("Rating, {}", words),
            "A",
            least=by(found.least_a, LEAST_RULES[found.least_by], *low, asked.ambient),
            most=by(found.most_a, MOST_RULES[found.most_by], *high, asked.ambient)
            if found.most_by
            else None,
            key=f"rating_a.{form}",
            case=form,
            set_by=LEAST_BY[found.least_by],
            most_by=MOST_BY.get(found.most_by, ""),
            reason="by the melting band that is usual for such",
        )
    yield make.window(
        "form",
        "Form",
        one_of=serving,
        set_by="melting band",
        reason="those of which some rating holds, and opens in time",
        must=False,
    )


def _plain(asked: FuseAsked) -> Iterator[FigureWindow]:
    make, full, short = Maker(asked.key), asked.full, asked.short
    yield make.window(
        "voltage_dc_v",
        "DC voltage",
        "V",
        least=by(full.number, "full voltage of the pack", full),
        set_by="full voltage",
        reason="an arc of direct current goes on burning under that",
    )
    yield make.window(
        "breaking_a",
        "Breaks",
        "A",
        least=by(
            BREAKING_SPARE * short.number, "1.25 × the most that a short circuit gives", short
        ),
        set_by="short-circuit current",
        reason="it bursts over that",
    )
    _, window = best_form(asked.setting)
    if not window.empty:
        yield make.window(
            "holder_a",
            "Its holder carries",
            "A",
            least=by(
                usual_rating_a(window.least_a, window.most_a),
                "the least rating sold that does",
                asked.load,
                asked.ambient,
            ),
            set_by="rating",
            reason="rated under the fuse in it, it melts first",
            must=False,
        )


def _holds(asked: FuseAsked) -> Iterator[FigureWindow]:
    """What it must hold for how long: where what is drawn steps down, as a sheet is read."""
    make, drawn = Maker(asked.key), asked.setting.drawn_a
    steps = np.flatnonzero(drawn[:-1] > drawn[1:] * STEP_DOWN)
    told = [
        (float(f"{TIMES_S[place]:.2g}"), float(drawn[place]))
        for place in steps[::-1]
        if TIMES_S[place] >= SHORTEST_TOLD_S
    ]
    for seconds, amps in told[:MOST_TOLD]:
        yield make.window(
            "band",
            phrase("Holds for {}", say(seconds, "s")),
            "A",
            least=by(amps, "what is drawn for so long", *asked.peaks),
            key=f"band.{seconds:g}s",
            at_s=seconds,
            set_by="peak or start",
            reason="it melts in use else",
        )


def _opens(asked: FuseAsked) -> Iterator[FigureWindow]:
    """By what it must have opened: the least short circuit, and harm to the wire."""
    make, setting = Maker(asked.key), asked.setting
    if setting.least_short_a > float(setting.harm_a[-1]):
        yield make.window(
            "band",
            phrase("Has opened in {} by", say(SHORT_OPENS_S, "s")),
            "A",
            most=by(
                setting.least_short_a,
                "what a short circuit gives at the least",
                asked.least_short,
            ),
            key="band.short",
            at_s=SHORT_OPENS_S,
            set_by="least short circuit",
            reason="nothing ends such a short else",
        )
    for seconds in TOLD_S:
        harm = at_time(setting.harm_a, seconds)
        if harm < setting.short_a:
            rule = "what harms the wire by then"
            yield make.window(
                "band",
                phrase("Has opened in {} by", say(seconds, "s")),
                "A",
                most=by(harm, rule, asked.wire.area, asked.ambient),
                key=f"band.wire.{seconds:g}s",
                at_s=seconds,
                set_by="wire behind it",
                reason="the wire burns else",
            )


def fuse_missed(spec: PartSpec, fuse: Fuse, asked: FuseAsked) -> tuple[str, ...]:
    """Fields of a fuse that lie outside the windows that must hold; its own band counts."""
    setting = asked.setting
    missed = [
        *named(spec.windows, {"voltage_dc_v": fuse.voltage_dc_v, "breaking_a": fuse.breaking_a})
    ]
    if hold_a(fuse, setting.ambient_c) < setting.current_a - 1e-9:
        missed.append("rating_a")
    if opens_wrongly(*fuse_curves(fuse, setting.ambient_c), setting):
        missed.append("band")
    return tuple(missed)
