"""Which test first: by how much it would settle for the time that it takes (methods 42)."""

from __future__ import annotations

from collections.abc import Collection

from msgspec import Struct

from lumvak.core.document.proving import Instrument, Proving, TestName
from lumvak.core.proving.correction import STRIP, TELLING, posterior
from lumvak.core.proving.guide import GUIDES, minutes
from lumvak.core.proving.measured import Measured, attempt_of, measured
from lumvak.core.proving.proof import TESTS, Prepared

# What must hold before anything is loaded comes before all that is only uncertain.
SAFETY: tuple[TestName, ...] = (
    "insulation", "asleep", "groups", "total", "full-charge", "over-current", "over-voltage",
    "under-voltage", "charger-stop", "self-discharge", "surge",
)  # fmt: skip
# A reading is off by so much of it where it is not taken yet.
USUAL_OFF, USUAL_K = 0.005, 0.7


class Planned(Struct, frozen=True):
    """A test in the plan: what of the band of the run time and of the warmth it would settle.

    ``settles`` is the share of the present band of the run time, ``settles_warm`` that of the
    strips' warmth, by which the rating goes; ``lacks`` what is not at hand for it.
    """

    test: TestName
    minutes: float
    settles: float
    settles_warm: float
    lacks: tuple[Instrument, ...]
    done: bool


def plan_of(
    ready: Prepared, proving: Proving, at_hand: Collection[Instrument]
) -> tuple[Planned, ...]:
    """The tests of a pack: those for safety first, then what settles most for its time."""
    pack, read = ready.pack, dict(measured(proving))
    now = posterior(pack, ready.prior, read)
    band = now.hours_after.high - now.hours_after.low
    warm = float(now.spread_after[STRIP, STRIP]) ** 0.5
    planned = []
    for test in TESTS:
        keys = [key for key in TELLING if key.startswith(f"{test}.") and key in ready.expected]
        if not any(key.startswith(f"{test}.") for key in ready.expected):
            continue
        settles = settles_warm = 0.0
        if keys and not any(key in read for key in keys):
            then = {**read, **{key: _as_expected(ready, key) for key in keys}}
            after = posterior(pack, ready.prior, then)
            settles = 1.0 - (after.hours_after.high - after.hours_after.low) / max(band, 1e-12)
            settles_warm = 1.0 - float(after.spread_after[STRIP, STRIP]) ** 0.5 / max(warm, 1e-12)
        guide = GUIDES[test]
        planned.append(
            Planned(
                test,
                minutes(test, pack),
                settles=max(settles, 0.0),
                settles_warm=max(settles_warm, 0.0),
                lacks=tuple(need for need in guide.needs if need not in at_hand),
                done=attempt_of(proving, test) > 0,
            )
        )
    return tuple(sorted(planned, key=_rank))


def _rank(item: Planned) -> tuple[bool, bool, float]:
    if item.test in SAFETY:
        return bool(item.lacks), False, float(SAFETY.index(item.test))
    worth = item.settles + item.settles_warm
    return bool(item.lacks), True, -worth / max(item.minutes, 1.0)


def _as_expected(ready: Prepared, key: str) -> Measured:
    value = ready.expected[key].value
    return Measured(value, USUAL_K if key.endswith("_k") else USUAL_OFF * abs(value))
