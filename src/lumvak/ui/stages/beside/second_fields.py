"""What is known of the second pack: its project, or a few numbers."""

from __future__ import annotations

import re
from pathlib import Path

from PyQt6.QtWidgets import QComboBox, QFileDialog, QPushButton, QVBoxLayout, QWidget

from lumvak.core.checked import made
from lumvak.core.document.afterwards.beside import MOST_MORE, MorePack
from lumvak.core.document.edit import ProjectError
from lumvak.core.evaluation import Evaluation
from lumvak.core.put_beside import side_of, usual_ohm
from lumvak.files.project_file import SUFFIX
from lumvak.files.reference import reference_to
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, said_of, say, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import FieldChoice, QuantityField, mark_bad, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

BY = (
    ("direct", "joined directly"),
    ("switch", "joined by a switch, level"),
    ("ideal-diodes", "joined by ideal diodes"),
    ("diodes", "joined by diodes"),
    ("one-at-a-time", "one at a time"),
)


PORTS = (("discharge", "discharge port"), ("charge", "charge port"))
MORE = re.compile(r"([\d.,]+)\s*[aA][hH](?:\s*@\s*([\d.,]+)\s*%?)?")


def read_more(text: str) -> tuple[tuple[MorePack, ...], str]:
    """A third and a fourth pack from “9 Ah; 12 Ah @ 80 %”; else why not."""
    packs = []
    for part in filter(None, (it.strip() for it in text.split(";"))):
        match = MORE.fullmatch(part)
        try:
            ah, at = (float((it or "100").replace(",", ".")) for it in match.groups())  # type: ignore[union-attr]
            packs.append(made(MorePack, {"capacity_ah": ah, "at": at / 100.0}))
        except (AttributeError, ValueError):
            return (), worded("“{}” is no pack; accepted: such as 9 Ah, or 9 Ah @ 80 %", part[:30])
    if len(packs) > MOST_MORE:
        return (), worded("{} more packs; accepted: {} at most", len(packs), MOST_MORE)
    return tuple(packs), ""


def _more_said(pack: MorePack) -> str:
    return say(pack.capacity_ah, in_words("Ah")) + (
        "" if pack.at == 1.0 else f" @ {say(pack.at, '%')}"
    )


def _usual_ohm(evaluation: Evaluation) -> float:
    """That of this pack for its charge."""
    own, ah = side_of(evaluation), evaluation.project.beside.capacity_ah
    return usual_ohm(own, ah or own.capacity_ah)


class SecondFields(QWidget):
    """Fields of the second pack, and of how both are joined."""

    def __init__(self, session: Session) -> None:
        """It is long, for it makes the fields one after the other."""
        super().__init__()
        self.session = session
        wide = 92
        self.numbers = [
            QuantityField(session, "beside.capacity_ah", width=wide),
            QuantityField(session, "beside.ohm", usual=_usual_ohm, width=wide),
            QuantityField(
                session,
                "beside.series",
                usual=lambda it: float(it.sized.choice.series),
                width=wide,
            ),
        ]
        self.chemistry = QComboBox()
        self.chemistry.setAccessibleName(in_words("Chemistry of the second pack"))
        self.chemistry.addItem(in_words("chemistry as this pack"), None)
        for item in session.catalogue.chemistries.values():
            self.chemistry.addItem(item.name, item.id)
        self.both = [
            QuantityField(session, "beside.at", width=wide),
            QuantityField(session, "beside.own_at", width=wide),
            QuantityField(
                session,
                "beside.current_a",
                usual=lambda it: it.sized.pack.current.number,
                width=wide,
            ),
            QuantityField(session, "beside.between_ohm", width=wide),
        ]
        self.by = QComboBox()
        self.by.setAccessibleName(in_words("How they are joined"))
        for value, words in BY:
            self.by.addItem(words, value)
        self.ports = [
            FieldChoice(session, f"beside.{name}", PORTS, words)
            for name, words in (
                ("own_port", "This pack is joined by its"),
                ("port", "The second is joined by its"),
            )
        ]
        self.more = EntryField()
        self.more.setObjectName("beside.more")
        self.more.setAccessibleName(in_words("More packs"))
        self.more.setPlaceholderText(in_words("9 Ah; 12 Ah @ 80 %"))
        self.more_problem = plain("")
        self.more_problem.setObjectName("bad")
        self.more_problem.setWordWrap(True)
        self.choose, self.forget = QPushButton("its project …"), QPushButton("by numbers")
        self.file = soft("", wrap=True)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(5))
        outer.addWidget(heading("The second pack"))
        outer.addWidget(flowing(self.choose, self.forget, gap=8))
        outer.addWidget(self.file)
        for field in (*self.numbers, self.chemistry, *self.both):
            outer.addWidget(field)
        outer.addWidget(self.by)
        for port, words in zip(self.ports, ("this by its", "the second by its"), strict=True):
            outer.addWidget(flowing(soft(words), port, gap=8))
        outer.addWidget(flowing(soft("more packs"), self.more, gap=8))
        outer.addWidget(self.more_problem)
        outer.addStretch(1)
        self.more.editingFinished.connect(self._take_more)
        self.by.activated.connect(
            lambda _: try_edit(session, {"beside.by": self.by.currentData()}, "how it is joined")
        )
        self.chemistry.activated.connect(
            lambda _: try_edit(session, {"beside.chemistry": self.chemistry.currentData()})
        )
        self.choose.clicked.connect(self._ask)
        self.forget.clicked.connect(lambda: try_edit(session, {"beside.file": ""}))

    def _take_more(self) -> None:
        """Take the third and the fourth pack as they are typed."""
        if not self.more.isModified():
            return
        packs, why = read_more(self.more.text())
        mark_bad(self.more, self.more_problem, why)
        if not why:
            self.more.setModified(False)
            try_edit(self.session, {"beside.more": packs}, "more packs")

    def _ask(self) -> None:
        path = self.session.path
        folder = Path.home() if path is None else path.parent
        kinds = worded("Lumvak projects (*{});;All files (*)", SUFFIX)
        name, _ = QFileDialog.getOpenFileName(self, "The second pack", str(folder), kinds)
        if name:
            self.take_file(Path(name))

    def take_file(self, path: Path) -> None:
        """Have the second pack be that of a project."""
        reference = reference_to(path, self.session.path)
        changes = {"beside.file": reference, "beside.capacity_ah": None}
        try:
            self.session.edit(changes, "the second pack")
        except ProjectError as problem:
            self.session.tell("warn", said_of(problem))

    def show_evaluation(self, evaluation: Evaluation, problem: str) -> None:
        """Show what is in force; ``problem`` is why its project says nothing."""
        wanted = evaluation.project.beside
        for field in (*self.numbers, self.chemistry):
            field.setVisible(not wanted.file)
        self.forget.setVisible(bool(wanted.file))
        if not self.more.isModified():
            self.more.setText("; ".join(_more_said(it) for it in wanted.more))
        mark_bad(self.more, self.more_problem, self.more_problem.text())
        self.file.setText(problem or wanted.file)
        self.file.setVisible(bool(wanted.file))
        self.by.setCurrentIndex(self.by.findData(wanted.by))
        self.chemistry.setCurrentIndex(max(self.chemistry.findData(wanted.chemistry), 0))
