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

    ``shown`` holds what the builder wants where there is room for it. At the stages at the bench
    the current is not the matter: there the path is folded until it is asked for, which ``paths``
    remembers by stage.
    """

    def __init__(self, shown: Mapping[str, bool], paths: Mapping[str, bool] | None = None) -> None:
        self.shown = dict(shown)
        self.paths = dict(paths or {})
        self._bench = ""
        self.short: frozenset[str] = frozenset()
        self._opened: set[str] = set()

    def stand_at(self, stage: str, *, bench: bool) -> None:
        """Stand at a stage, which may be one at the bench."""
        self._bench = stage if bench else ""

    def fit(self, short: frozenset[str]) -> bool:
        """Take up which parts are short of room; whether that is news."""
        news = short != self.short
        self._opened -= short ^ self.short
        self.short = short
        return news

    def folded(self, part: str) -> bool:
        """Whether a part is folded."""
        if part in self.short:
            return part not in self._opened
        if part == "path" and self._bench:
            return not self.paths.get(self._bench, False)
        return not self.shown[part]

    def turn(self, part: str, *, folded: bool) -> None:
        """Fold a part or open it, by hand."""
        if part in self.short:
            (self._opened.discard if folded else self._opened.add)(part)
        elif part == "path" and self._bench:
            self.paths[self._bench] = not folded
        else:
            self.shown[part] = not folded
