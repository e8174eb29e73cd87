"""The moment of a reading, as it is kept."""

from __future__ import annotations

from datetime import datetime

MOMENT = "%Y-%m-%d %H:%M:%S"


def moment_now() -> str:
    """The day and the time of the wall."""
    return datetime.now().strftime(MOMENT)
