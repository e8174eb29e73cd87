"""How long tests go on that draw at random: short in every check, long in ``./bench tests``."""

from __future__ import annotations

import os

LONG = "LUMVAK_LONG" in os.environ


def so_many(short: int, long: int) -> int:
    """How many are drawn: ``short`` in every check, ``long`` where there is time."""
    return long if LONG else short
