"""What two packs are together, as figures that explain themselves (methods 44)."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.beside.side import PackSide
from lumvak.core.beside.together import Together
from lumvak.core.figures.figure import Figure, Origin, Rule

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
EMF_V = Rule("beside.{}.emf_v", "{}, at rest", "V", "its curve at {} of its charge", "methods 44")
FAST_OHM = Rule("beside.{}.fast_ohm", "{}, in the first moment", "Ω",
                "fast part of its cells + its path", "methods 44")
OHM = Rule("beside.{}.ohm", "{}, steady", "Ω", "its cells + its path", "methods 44")
AH = Rule("beside.{}.ah", "{}", "Ah", "its capacity", "methods 44")
LEAST_A = Rule("beside.{}.{}", "{}: the least of its parts {}", "A", "{}", "methods 44")
APART_V = Rule("beside.apart_v", "Apart", "V", "this pack − the second, at rest", "methods 44")
PEAK_A = Rule("beside.peak_a", "When joined", "A", "apart ÷ both resistances of the first moment",
              "methods 44")
LASTS_S = Rule("beside.lasts_s", "Down to a twentieth after", "s",
               "(R₁ + R₂) × charge a volt of both in series × ln 20", "methods 44")
SAFE_V = Rule("beside.safe_v", "May be joined within", "V",
              "least that a part gives or takes × both resistances of the first moment",
              "methods 44")
HOURS = Rule("beside.hours", "Together", "h", "one voltage at every moment, until the last opens",
             "methods 44")
RISE_K = Rule("beside.{}.rise_k", "{} warms by at most", "K",
              "I² R over the run ÷ (mass × 950 J/(kg K)), if no heat leaves", "methods 44")
ALONE_H = Rule("beside.{}.alone_h", "{} alone", "h", "the same load, until it opens", "methods 44")
# fmt: on
PLACES = ("one", "other", "third", "fourth")


def beside_figures(found: Together) -> Iterator[Figure]:
    """The figures of two packs; none of those that must not be in parallel."""
    if found.course is None:
        return
    given = [_given(side, place) for side, place in zip(found.sides, PLACES, strict=False)]
    emf, fast, ohm, ah = zip(*given, strict=True)
    if found.joining is not None:
        joining = found.joining
        apart = APART_V.of(abs(joining.apart_v), *emf)
        yield apart
        yield PEAK_A.of(joining.peak_a, apart, *fast)
        yield LASTS_S.of(joining.seconds, *ohm, *ah)
        least = [
            _least(side, place, way)
            for side, place in zip(found.sides, PLACES, strict=False)
            for way in ("gives_a", "takes_a")
        ]
        yield SAFE_V.of(joining.safe_v, *(it for it in least if it is not None), *fast)
    yield HOURS.of(found.course.hours, *ohm, *ah)
    for side, place, rise in zip(found.sides, PLACES, found.rises_k, strict=False):
        own = given[PLACES.index(place)]
        yield RISE_K.of(rise, own[2], own[3], key=place, label=side.name)
    for side, place, hours in zip(found.sides, PLACES, found.hours_alone, strict=False):
        own = given[PLACES.index(place)]
        yield ALONE_H.of(hours, own[2], own[3], key=place, label=side.name)


def _given(side: PackSide, place: str) -> tuple[Figure, Figure, Figure, Figure]:
    """Rest volts, both resistances and the charge of a pack; assumed where its parts are."""
    assumed = any(it.assumed for it in side.limits)
    origin: Origin = "assumed" if assumed else "computed"
    return (
        EMF_V.of(side.emf_v, key=place, label=side.name, rule=f"{side.at:.0%}", origin=origin),
        FAST_OHM.of(side.fast_ohm, key=place, label=side.name, origin=origin),
        OHM.of(side.ohm, key=place, label=side.name, origin=origin),
        AH.of(side.capacity_ah, key=place, label=side.name, origin=origin),
    )


def _least(side: PackSide, place: str, way: str) -> Figure | None:
    known = [it for it in side.limits if getattr(it, way) is not None]
    if not known:
        return None
    worst = min(known, key=lambda it: getattr(it, way))
    words = "gives" if way == "gives_a" else "takes"
    make = LEAST_A.assumed if worst.assumed else LEAST_A.of
    return make(getattr(worst, way), key=(place, way), label=(side.name, words), rule=worst.what)
