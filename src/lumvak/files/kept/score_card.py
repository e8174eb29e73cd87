"""How the levels of practise went: kept on this machine, apart from all projects."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path
from typing import Annotated

import platformdirs
from msgspec import DecodeError, Meta, Struct, ValidationError, json

from lumvak.files.problem import FileProblem, read_text, write_atomically

MOST_SCORES = 2000


class Scored(Struct, frozen=True):
    """A pack that was looked at: whether what it hid was named, and with how many readings.

    ``needless`` of them told nothing; ``unsafe`` steps could have hurt.
    """

    level: Annotated[int, Meta(ge=1, le=99)]
    seed: Annotated[int, Meta(ge=0, lt=10**9)]
    right: bool
    place_right: bool
    readings: Annotated[int, Meta(ge=0)]
    needless: Annotated[int, Meta(ge=0)]
    unsafe: Annotated[int, Meta(ge=0)]
    day: str = ""

    @property
    def whole(self) -> bool:
        """Whether all of it was right, and nothing unsafe."""
        return self.right and self.place_right and not self.unsafe


def card_path() -> Path:
    """Where the score card lies."""
    return Path(platformdirs.user_state_dir("lumvak")) / "practise.json"


def load_card(path: Path) -> tuple[tuple[Scored, ...], str]:
    """All scores, the latest last, and what is wrong with the file where something is."""
    try:
        if not path.exists():
            return (), ""
        return json.decode(read_text(path), type=tuple[Scored, ...]), ""
    except (DecodeError, ValidationError):
        return (), f"The score card is not as it should be, in {path}: begun anew."
    except (FileProblem, OSError) as error:
        return (), f"The score card is not read: {error}."


def keep_score(path: Path, scores: Iterable[Scored]) -> str:
    """Write the scores, the last of them where there are too many; what went wrong, if anything."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        write_atomically(path, json.encode(tuple(scores)[-MOST_SCORES:]))
    except (FileProblem, OSError) as error:
        return f"The score card was not kept: {error}."
    return ""


def best_of(scores: Iterable[Scored], level: int) -> Scored | None:
    """The best of a level: right, safe, then with the fewest readings."""
    own = [it for it in scores if it.level == level]
    return min(own, key=lambda it: (not it.right, not it.whole, it.readings), default=None)
