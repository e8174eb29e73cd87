"""One thing that the evaluation has to say."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from lumvak.core.said import Text

Severity = Literal["stop", "warn", "note"]
SEVERITIES: tuple[Severity, ...] = ("stop", "warn", "note")
# Direct current over this is not usually treated as safe to touch.
TOUCH_SAFE_V = 60.0


class Finding(Struct, frozen=True):
    """One thing to notice: a stable code, how bad, one sentence, why, what to do, and where.

    ``figure`` is the key of what it is about, ``beside`` are those of others that it names.
    ``cure`` is the path of the field that changes it, where its code does not tell (cures.py).
    """

    code: str
    severity: Severity
    text: Text
    why: Text
    do: Text
    stage: str
    figure: str = ""
    beside: tuple[str, ...] = ()
    cure: str = ""
