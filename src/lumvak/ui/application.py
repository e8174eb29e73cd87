"""Starting the window: fonts, sheet, catalogue, recovery, and errors that nobody foresaw."""

from __future__ import annotations

import gc
import importlib
import signal
import sys
import time
import traceback
from importlib.resources import files
from pathlib import Path
from types import TracebackType

from msgspec.structs import replace
from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QIcon
from PyQt6.QtWidgets import QApplication

from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.kept.recovery import RecoveryCopy, left_over, recovery_folder, sweep
from lumvak.files.kept.window_settings import load_settings, settings_path
from lumvak.files.problem import FileProblem
from lumvak.ui.session import Session, read_project
from lumvak.ui.shell.preferences import speak_as
from lumvak.ui.shell.window import Window
from lumvak.ui.speech import said_of, spoken, worded
from lumvak.ui.warming import Warming
from lumvak.ui.widgets.theme import THEME, dress, load_fonts, sheet_of

# The window has long been drawn by then, and a builder is still looking at it.
IDLE_MS = 1500
GIVES_WAY_S = 5e-4


def make_application() -> QApplication:
    """The Qt application with our fonts and look."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(sys.argv[:1])
    # What is worked out beside the window gives way at once: the hand does not wait for it.
    sys.setswitchinterval(GIVES_WAY_S)
    app.setApplicationName("lumvak")
    app.setApplicationDisplayName("Lumvak")
    app.setDesktopFileName("lumvak")
    app.setWindowIcon(QIcon(str(files("lumvak") / "data" / "desktop" / "lumvak-128.png")))
    app.setStyle("Fusion")
    load_fonts()
    return app


def make_window(app: QApplication, file: Path | None) -> Window:
    """The window over a fresh session, with ``file`` open if it can be."""
    settings, unread = load_settings(settings_path())
    THEME.name = sheet_of(settings.sheet, app.styleHints())
    THEME.percent = settings.text_percent
    dress(app)
    speak_as(settings)
    catalogue, problems = load_catalogue()
    opened, problem = None, ""
    if file is not None:
        try:
            opened = read_project(file, catalogue)
        except FileProblem as error:
            problem = said_of(error)
    session = Session(catalogue, RecoveryCopy(recovery_folder()), opened=opened)
    # A new project begins with what is to be powered, a file where it was left.
    stage = settings.stage if opened is not None else "need"
    window = Window(session, replace(settings, stage=stage), settings_path())
    if opened is not None:
        window.remember_file(opened.path)
        if opened.noted:
            window.notice.say("note", spoken(opened.noted))
    if problem:
        window.notice.say("stop", problem)
    for text in [*problems, *filter(None, [unread])]:
        window.notice.say("warn", text)
    sweep(recovery_folder(), time.time())
    copies, lost = left_over(recovery_folder(), catalogue)
    for text in lost:
        window.notice.say("warn", text)
    window.files.offer(copies)
    return window


def run(file: Path | None) -> int:
    """Open the window and run until it is closed; returns the exit status."""
    app = make_application()
    window = make_window(app, file)

    def unforeseen(
        kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        traceback.print_exception(kind, error, trace)
        window.session.tell(
            "stop",
            worded(
                "Something unforeseen happened ({}: {}). Your work is kept; undo "
                "the last step or save under another name.",
                kind.__name__,
                error,
            ),
        )

    sys.excepthook = unforeseen
    # Whoever logs out is not asked: the work is offered at the next start.
    app.commitDataRequest.connect(lambda _: window.session.keep_now())
    # To quit would ask every window first; nobody is there to answer.
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, lambda *_: QApplication.exit(0))
    # A slow tick lets Python see signals while Qt waits.
    ticker = QTimer()
    ticker.timeout.connect(lambda: None)
    ticker.start(300)
    window.show()
    Warming(window)
    QTimer.singleShot(IDLE_MS, settle_down)
    app.aboutToQuit.connect(window.session.end)
    return app.exec()


def settle_down() -> None:
    """What can wait until the window is drawn and nobody waits for it.

    Packs over 160 cells are solved with what is loaded here, so that no edit has to wait for it.
    What was built at the start lives until the end: garbage passes need not go through it.
    """
    importlib.import_module("scipy.sparse.linalg")
    gc.collect()
    gc.freeze()
    gc.enable()
