"""What a board or a balancer shows once plugged in: a lead, a group, or its own calibration."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
from msgspec import Struct

from lumvak.core.said import Text, phrase, say

Kind = Literal["fine", "calibration", "lead", "group", "several"]
# A display shows alike to this; two neighbours that are off by opposite amounts, to this share.
ALIKE_V, OPPOSITE = 0.015, 0.25


class Shown(Struct, frozen=True):
    """What explains numbers on a display: the lead from 0, or the group from 1, and what to do."""

    kind: Kind
    place: int | None
    words: Text
    do: Text


def explained(shown_v: Sequence[float], true_v: Sequence[float]) -> tuple[Shown, ...]:
    """What explains that a display shows these groups where they have those, in V (methods 32).

    A lead that makes no good contact lies between its two groups: what one has too much the other
    lacks. All off by one share is the display's own calibration.

    It is long, for there is a sentence or two for each thing to say.
    """
    shown, true = np.array(shown_v, dtype=float), np.array(true_v, dtype=float)
    off = shown - true
    if np.abs(off).max() <= ALIKE_V:
        return (Shown("fine", None, "Every group is shown as it is.", ""),)
    share = float((off * true).sum() / np.square(true).sum())
    if np.abs(off - share * true).max() <= ALIKE_V:
        return (
            Shown(
                "calibration",
                None,
                phrase("All are off by {}: the display's own calibration.", say(share, "%")),
                "Correct it in its settings, or keep the correction here.",
            ),
        )
    found, left = [], off.copy()
    for group in range(len(off) - 1):
        one, other = left[group], left[group + 1]
        if abs(one) > ALIKE_V and abs(one + other) <= max(ALIKE_V, OPPOSITE * abs(one)):
            lead = group + 1
            found.append(
                Shown(
                    "lead",
                    lead,
                    phrase(
                        "Lead {}: group {} is shown {}, group {} {}; together they are right.",
                        lead,
                        lead,
                        _over(one),
                        lead + 1,
                        _over(float(other)),
                    ),
                    phrase(
                        "Unplug. Look at its crimp and its joint; measure from pin to tap {}.",
                        lead,
                    ),
                )
            )
            left[group] = left[group + 1] = 0.0
    for group in np.flatnonzero(np.abs(left) > ALIKE_V).tolist():
        ends = group in (0, len(off) - 1)
        more = phrase(", or lead {} at the end", 0 if group == 0 else len(off)) if ends else ""
        found.append(
            Shown(
                "group",
                group + 1,
                phrase(
                    "Group {} is shown {}: the group has changed{}, or this channel is off.",
                    group + 1,
                    _over(float(left[group])),
                    more,
                ),
                phrase(
                    "Read group {} across its own ends: if the meter agrees with the display it "
                    "is the group, if not the channel.",
                    group + 1,
                ),
            )
        )
    return tuple(found)


def _over(off: float) -> Text:
    return phrase("{} too high" if off > 0 else "{} too low", say(abs(off) * 1e3, "mV"))
