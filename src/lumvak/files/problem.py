"""What can be wrong with a file, in one sentence, and how files are read and written safely."""

from __future__ import annotations

import contextlib
import json
import os
import tempfile
from pathlib import Path

SIZE_LIMIT = 50_000_000


class FileProblem(Exception):
    """A file that cannot be read or written; the message says what, where and what would do."""


def read_text(path: Path) -> str:
    """The text of a file; raises FileProblem where it cannot be read."""
    try:
        if path.stat().st_size > SIZE_LIMIT:
            raise FileProblem(f"{path.name} is over {SIZE_LIMIT // 1_000_000} MB; not read")
        return path.read_text("utf-8")
    except UnicodeDecodeError as error:
        raise FileProblem(f"{path.name} is not text in UTF-8") from error
    except OSError as error:
        raise FileProblem(f"{path} cannot be read: {error.strerror}") from error


def check_header(text: str, where: str, wanted: str, version: int) -> None:
    """Raise FileProblem where ``text`` is no JSON object of format ``wanted`` and known version."""
    try:
        document = json.loads(text)
    except json.JSONDecodeError as error:
        cut = not text.rstrip().endswith("}")
        raise FileProblem(
            f"{where}, line {error.lineno}: "
            + (
                "the file is cut short; open the recovery copy or an older one"
                if cut
                else f"not valid JSON ({error.msg.lower()})"
            )
        ) from error
    except RecursionError as error:
        raise FileProblem(f"{where}: nested too deeply to be a {wanted} file") from error
    if not isinstance(document, dict) or document.get("format") != wanted:
        raise FileProblem(f"{where} is not a {wanted} file: it lacks “format”: “{wanted}”")
    found = document.get("version")
    if not isinstance(found, int) or isinstance(found, bool) or found < 1:
        raise FileProblem(f"{where}: version {found!r} was given; accepted: {version}")
    if found > version:
        raise FileProblem(
            f"{where} was written by a newer Lumvak (version {found}); this one reads up to "
            f"version {version}. The file is untouched"
        )


def write_atomically(path: Path, content: str | bytes, *, to_disk: bool = True) -> None:
    """Write ``content``, whole or not at all; raises FileProblem and leaves the old file.

    ``to_disk`` waits until it is on the disk itself; without it a crash of the program is
    survived, a power cut at that very moment perhaps not.
    """
    temporary = None
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        target = path.resolve()
        handle, temporary = tempfile.mkstemp(prefix=f".{target.name}.", dir=target.parent)
        with os.fdopen(handle, "wb") as stream:
            stream.write(content.encode("utf-8") if isinstance(content, str) else content)
            stream.flush()
            if to_disk:
                os.fsync(stream.fileno())
        mode = target.stat().st_mode & 0o777 if target.exists() else 0o666 & ~_umask()
        os.chmod(temporary, mode)
        os.replace(temporary, target)
    except OSError as error:
        if temporary is not None:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        raise FileProblem(
            f"{path} was not saved: {error.strerror}. Your work is kept; save it elsewhere"
        ) from error


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask
