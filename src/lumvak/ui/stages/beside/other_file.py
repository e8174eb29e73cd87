"""The second pack, read from its own project once, and anew when that was written."""

from __future__ import annotations

from lumvak.core.beside.side import PackSide
from lumvak.core.evaluate import evaluate
from lumvak.core.put_beside import side_of
from lumvak.files.problem import FileProblem, stamp_of
from lumvak.files.project_file import load_project
from lumvak.files.reference import referred
from lumvak.ui.session import Session
from lumvak.ui.speech import said_of, worded


class OtherFile:
    """What the project beside says; ``problem`` is why it says nothing."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._known: tuple[object, ...] = ()
        self._side: PackSide | None = None
        self.problem = ""

    def side(self) -> PackSide | None:
        """The second pack; ``None`` where it has no project, or one that cannot be read."""
        reference = self._session.project.beside.file
        path = referred(reference, self._session.path) if reference else None
        if path is None:
            self.problem = worded("{} is not to be found", reference) if reference else ""
            return None
        try:
            now = path, stamp_of(path)
            if now != self._known:
                self._known, self._side = now, None
                project = load_project(path, self._session.catalogue)
                self._side = side_of(evaluate(project, self._session.catalogue))
                self.problem = ""
        except FileProblem as problem:
            self.problem = said_of(problem)
        return self._side
