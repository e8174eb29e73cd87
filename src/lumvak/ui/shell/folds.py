"""What of the window folds away: by itself where room is short, and by hand."""

from __future__ import annotations

from collections.abc import Mapping

# Widths and heights at 100 % under which each part folds by itself.
LINE_PX, MARGIN_PX, PATH_PX = 900, 1100, 720


def short_of_room(width: int, height: int, percent: int) -> frozenset[str]:
    """The parts of a window of this size in px that fold at this size of text."""
    wide, high = width * 100.0 / percent, height * 100.0 / percent
    least = {"line": wide < LINE_PX, "margin": wide < MARGIN_PX, "path": high < PATH_PX}
    return frozenset(part for part, short in least.items() if short)


class Folds:
    """Which parts are folded; what was folded or opened by hand stays until the room changes.

    ``shown`` holds what the builder wants where there is room for it.
    """

    def __init__(self, shown: Mapping[str, bool]) -> None:
        self.shown = dict(shown)
        self.short: frozenset[str] = frozenset()
        self._opened: set[str] = set()

    def fit(self, short: frozenset[str]) -> bool:
        """Take up which parts are short of room; whether that is news."""
        news = short != self.short
        self._opened -= short ^ self.short
        self.short = short
        return news

    def folded(self, part: str) -> bool:
        """Whether a part is folded."""
        return part not in self._opened if part in self.short else not self.shown[part]

    def turn(self, part: str, *, folded: bool) -> None:
        """Fold a part or open it, by hand."""
        if part in self.short:
            (self._opened.discard if folded else self._opened.add)(part)
        else:
            self.shown[part] = not folded
