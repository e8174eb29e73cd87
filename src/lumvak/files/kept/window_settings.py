"""What the window remembers between starts: preferences, how it was left, recent projects."""

from __future__ import annotations

import contextlib
from pathlib import Path
from typing import Annotated, Literal

import platformdirs
from msgspec import DecodeError, Meta, Struct, json
from msgspec.structs import replace

from lumvak.core.catalogue.cells import Form
from lumvak.core.document.hand import Meter
from lumvak.core.spelling import Spelling
from lumvak.core.units import MOST_OF_A_CURRENCY
from lumvak.files.problem import FileProblem, read_text, write_atomically
from lumvak.files.signs import in_signs

RECENT_LIMIT = 8


WindowPx = Annotated[int, Meta(ge=400, le=20_000)]


class Settings(Struct, frozen=True):
    """The settings as stored; an unreadable file gives the defaults."""

    # Empty is as the desktop has it.
    sheet: Literal["", "light", "dark", "contrast"] = ""
    text_percent: Annotated[int, Meta(ge=75, le=250)] = 100
    recent: tuple[str, ...] = ()
    # Where the window was left: its size, the stage, the view of each stage, the folder of files,
    # the lines between panes in px at 100 %.
    window_px: tuple[WindowPx, WindowPx] = (1280, 800)
    stage: str = "need"
    views: dict[str, str] = {}
    folder: str = ""
    splits: dict[str, tuple[Annotated[int, Meta(ge=0, le=20_000)], ...]] = {}
    line_shown: bool = True
    margin_shown: bool = True
    path_shown: bool = True
    # Whether the path is open at a stage at the bench.
    paths: dict[str, bool] = {}
    forms: tuple[Form, ...] = ()
    # Preferences; empty is as the language of the desktop has it.
    language: Literal["", "en", "de"] = ""
    paper: Literal["", "a4", "letter"] = ""
    currency: Annotated[str, Meta(max_length=MOST_OF_A_CURRENCY)] = ""
    lengths: Literal["mm", "in"] = "mm"
    temperatures: Literal["C", "F"] = "C"
    wires: Literal["awg", "mm2"] = "awg"
    decimal: Literal["", "point", "comma"] = ""
    sounds: bool = False
    # What heads of tables of readings were said to be, in small letters.
    heads: dict[str, str] = {}
    # The builder's meter, for projects begun later.
    meter: Meter = Meter()


def spelling_of(settings: Settings, comma: bool = False, currency: str = "") -> Spelling:
    """How quantities are spelled: as is preferred, else with the decimal sign and currency given.

    ``comma`` and ``currency`` are what the language of the desktop has.
    """
    return Spelling(
        inches=settings.lengths == "in",
        fahrenheit=settings.temperatures == "F",
        gauges=settings.wires == "awg",
        comma=settings.decimal == "comma" or (comma and not settings.decimal),
        currency=(settings.currency or currency).strip()[:MOST_OF_A_CURRENCY],
    )


def settings_path() -> Path:
    """Where settings live (XDG configuration folder)."""
    return Path(platformdirs.user_config_dir("lumvak")) / "settings.json"


def load_settings(path: Path) -> tuple[Settings, str]:
    """The settings at ``path``, or the defaults, and why they are that where something is there."""
    try:
        if not path.exists():
            return Settings(), ""
        return json.decode(read_text(path), type=Settings), ""
    except DecodeError:
        return Settings(), f"Preferences are not as they should be, in {path}: begun anew."
    except (FileProblem, OSError) as error:
        return Settings(), in_signs(f"Preferences are not read, and will not be kept: {error}")


def save_settings(settings: Settings, path: Path) -> None:
    """Keep the settings; a place that cannot be written is passed over, for no work is lost."""
    with contextlib.suppress(FileProblem):
        write_atomically(path, json.format(json.encode(settings), indent=1).decode() + "\n")


def with_recent(settings: Settings, project: Path) -> Settings:
    """The settings with ``project`` at the head of the recent ones, where its path is text."""
    name = str(project.resolve())
    if name != in_signs(name):
        return settings
    others = tuple(item for item in settings.recent if item != name)
    return replace(settings, recent=(name, *others)[:RECENT_LIMIT])
