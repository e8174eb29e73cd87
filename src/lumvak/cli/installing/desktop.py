"""``lumvak --install-desktop``: menu entry, icon, file type, manual and completion for one user."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from importlib.resources import files
from pathlib import Path

from lumvak.cli.installing.completion import bash, fish, zsh
from lumvak.cli.installing.manual import pages
from lumvak.files.problem import write_atomically

ICON_SIZES = (16, 24, 32, 48, 64, 128, 256, 512)
TYPE_ICON = "application-x-lumvak-project"
# What tells the desktop of it, where it is there: each with its folder.
REFRESH = (
    ("update-mime-database", "mime"),
    ("update-desktop-database", "applications"),
    ("gtk-update-icon-cache", "icons/hicolor"),
)


def data_home() -> Path:
    """Where the data of one user lies."""
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def program() -> str:
    """How the program is started from a menu: as it was started now."""
    started = Path(sys.argv[0])
    if started.name == "lumvak" and started.exists():
        return _quoted(str(started.resolve()))
    found = shutil.which("lumvak")
    return _quoted(found) if found else f"{_quoted(sys.executable)} -P -m lumvak"


def _quoted(path: str) -> str:
    """A path as the value of Exec takes it."""
    if not set(path) & set(" \t\"'\\><~|&;$*?#()`"):
        return path
    escaped = "".join(f"\\{sign}" if sign in '"`$\\' else sign for sign in path)
    return f'"{escaped}"'.replace("\\", "\\\\")


def install() -> int:
    """Write all that there is to write for this user, and say where; returns the exit status."""
    home = data_home()
    for name, content in contents():
        write_atomically(home / name, content)
        print(home / name)
    _refresh(home)
    return 0


def remove() -> int:
    """Remove what ``install`` wrote, and nothing else; returns the exit status."""
    home = data_home()
    for name, _ in contents():
        path = home / name
        if path.is_file():
            path.unlink()
            print(path)
    _refresh(home)
    return 0


def contents(started: str = "") -> Iterator[tuple[str, bytes]]:
    """Every file with its place under the data of a user; ``started`` is how the menu starts it."""
    held = Path(str(files("lumvak"))) / "data" / "desktop"
    entry = (held / "lumvak.desktop").read_text("utf-8").replace("@EXEC@", started or program())
    yield "applications/lumvak.desktop", entry.encode("utf-8")
    yield "mime/packages/lumvak.xml", (held / "lumvak.xml").read_bytes()
    metainfo = "org.lumvak.Lumvak.metainfo.xml"
    yield f"metainfo/{metainfo}", (held / metainfo).read_bytes()
    icons = "icons/hicolor"
    yield f"{icons}/scalable/apps/lumvak.svg", (held / "lumvak.svg").read_bytes()
    kind = (held / "lumvak-project.svg").read_bytes()
    yield f"{icons}/scalable/mimetypes/{TYPE_ICON}.svg", kind
    for size in ICON_SIZES:
        picture = (held / f"lumvak-{size}.png").read_bytes()
        yield f"{icons}/{size}x{size}/apps/lumvak.png", picture
    for name, text in pages().items():
        yield f"man/man1/{name}", text.encode("utf-8")
    yield "bash-completion/completions/lumvak", bash().encode("utf-8")
    yield "zsh/site-functions/_lumvak", zsh().encode("utf-8")
    yield "fish/vendor_completions.d/lumvak.fish", fish().encode("utf-8")


def _refresh(home: Path) -> None:
    """Tell the desktop, as far as its tools are there."""
    for tool, folder in REFRESH:
        if shutil.which(tool) and (home / folder).is_dir():
            subprocess.run([tool, str(home / folder)], check=False, capture_output=True)
