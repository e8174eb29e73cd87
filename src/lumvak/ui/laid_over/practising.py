"""A level of practise in hand: the hidden pack, what was done with it, what each reading told."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from PyQt6.QtCore import QObject, pyqtSignal

from lumvak.bench.practise.levels import FIRST_SEED, Level, hidden_in, level_of, pack_of
from lumvak.bench.practise.search import acts_of, next_here, searched
from lumvak.bench.practise.trail import (
    NOTHING_BITS,
    READ,
    Act,
    Done,
    HiddenPack,
    Score,
    TrailTold,
    score_of,
    told,
)
from lumvak.bench.simulated.faults import Hidden
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.trouble.diagnosis import Diagnosis
from lumvak.core.trouble.proposing import Proposed
from lumvak.files.kept.score_card import Scored, card_path, keep_score, load_card
from lumvak.ui.work import Report, Work


class Practising(QObject):
    """One pack at a time; ``changed`` after everything that is done, ``said`` what went wrong.

    What it hides is not to be had from here before the answer.
    """

    changed = pyqtSignal()
    said = pyqtSignal(str)

    def __init__(self, catalogue: Catalogue) -> None:
        super().__init__()
        self._catalogue = catalogue
        self.level: Level | None = None
        self.seed = FIRST_SEED
        self.series = 0
        self.done: list[Done] = []
        self.answer: tuple[Hidden, ...] | None = None
        self.told: TrailTold | None = None
        self._search: tuple[int, Diagnosis] | None = None
        self._pack: HiddenPack | None = None
        self._hidden: tuple[Hidden, ...] = ()
        self.scores, problem = load_card(card_path())
        self.problem = problem
        self.work = Work()
        self.work.done.connect(self._take)
        self.work.failed.connect(self.said)

    @property
    def running(self) -> bool:
        """Whether there is a pack that was not answered yet."""
        return self._pack is not None and self.answer is None

    @property
    def state(self) -> str:
        """What is on, in words."""
        return "" if self._pack is None else self._pack.state

    @property
    def hidden(self) -> tuple[Hidden, ...]:
        """What it hid; nothing before the answer."""
        return () if self.running else self._hidden

    @property
    def score(self) -> Score | None:
        """How the answer stands."""
        return None if self.answer is None else score_of(self.answer, self._hidden)

    def begin(self, number: int, seed: int) -> None:
        """Begin a level with a pack; the one before it is given up."""
        self.work.cancel()
        self.level, self.seed = level_of(number), seed
        pack = pack_of(self.level, self._catalogue)
        self._hidden = hidden_in(self.level, seed, pack)
        self._pack = HiddenPack(pack, seed, self._hidden)
        self.series = pack.series
        self.done, self.answer, self.told, self._search = [], None, None, None
        self.changed.emit()

    def do(self, act: Act) -> None:
        """Do something with the pack; nothing once it was answered."""
        if self._pack is not None and self.running:
            self.done.append(self._pack.do(act))
            self.changed.emit()

    @property
    def search(self) -> Diagnosis | None:
        """What a search makes of what was read so far; it knows no more than that."""
        if self._pack is None or self.level is None:
            return None
        if self._search is None or self._search[0] != len(self.done):
            found = searched(self.level, self.seed, self._pack.pack, self.done)
            self._search = len(self.done), found
        return self._search[1]

    @property
    def asked(self) -> Proposed | None:
        """The reading that a search asks for next; ``None`` where it is enough."""
        found = self.search
        if found is None or self._pack is None or not self.running:
            return None
        return next_here(found, self._pack.pack)

    def take_asked(self) -> None:
        """Do what the reading needs that is asked for, and take it."""
        wanted, pack = self.asked, self._pack
        if wanted is None or pack is None:
            return
        for act in acts_of(wanted, self.done, pack.state, self.series):
            self.done.append(pack.do(act))
        self.changed.emit()

    def give(self, answer: Sequence[Hidden]) -> None:
        """Say what it hides; what each reading told is worked out beside the window."""
        if self._pack is None or self.level is None or not self.running:
            return
        self.answer = tuple(answer)
        pack, level, hidden, done = self._pack.pack, self.level, self._hidden, list(self.done)

        def work(_: Report) -> object:
            return told(pack, level, hidden, done)

        self.work.start(work, level)
        self.changed.emit()

    def _take(self, found: object, _: object) -> None:
        if not isinstance(found, TrailTold) or self.level is None or self.score is None:
            return
        self.told = found
        score = self.score
        scored = Scored(
            level=self.level.number,
            seed=self.seed,
            right=score.right,
            place_right=score.place_right,
            readings=sum(it.value is not None for it in self.done),
            needless=self.needless,
            unsafe=sum(bool(it.unsafe) for it in self.done),
            day=date.today().isoformat(),
        )
        self.scores = (*self.scores, scored)
        if problem := keep_score(card_path(), self.scores):
            self.said.emit(problem)
        self.changed.emit()

    @property
    def needless(self) -> int:
        """How many readings told nothing."""
        if self.told is None:
            return 0
        return sum(
            item.act.do == READ and abs(bits) < NOTHING_BITS
            for item, bits in zip(self.done, self.told.bits, strict=True)
        )
