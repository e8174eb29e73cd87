"""What can be wrong with a file, in one sentence, and how files are read and written safely."""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import re
import stat
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from lumvak.core.units import quoted_briefly
from lumvak.files.signs import brief, in_signs

SIZE_LIMIT = 50_000_000
LONGEST_NAME = 100
# What is being written is younger than this.
HALF_WRITTEN_S = 3600.0
# The end of the name of what is written beside a file of several names.
WHOLE = ".whole"
# No problem takes more words than this.
MOST_SAID = 900


class FileProblem(Exception):
    """A file that cannot be read or written; the message says what, where and what would do."""

    def __init__(self, message: str) -> None:
        # A key or a word of a file may be as long as the file; a path is not.
        line = quoted_briefly(in_signs(message)).replace("\n", " ")
        super().__init__(brief(line, MOST_SAID, word=100, over=300))


class NewerFile(FileProblem):
    """A file that a newer Lumvak wrote; nothing is wrong with it."""


def check_size(path: Path) -> None:
    """Raise FileProblem where ``path`` is no plain file, or too large to be read."""
    try:
        seen = path.stat()
    except OSError as error:
        raise FileProblem(f"{path} cannot be read: {error.strerror}") from error
    if not stat.S_ISREG(seen.st_mode):
        raise FileProblem(f"{path} cannot be read: it is no plain file")
    if seen.st_size > SIZE_LIMIT:
        raise FileProblem(f"{path.name} is over {SIZE_LIMIT // 1_000_000} MB; not read")


def read_text(path: Path) -> str:
    """The text of a file, without a byte-order mark; raises FileProblem where it cannot be read.

    ``-`` is standard input.
    """
    if str(path) == "-":
        return _text_in()
    check_size(path)
    try:
        return path.read_text("utf-8").removeprefix("\ufeff")
    except UnicodeDecodeError as error:
        raise FileProblem(f"{path.name} is not text in UTF-8") from error
    except OSError as error:
        raise FileProblem(f"{path} cannot be read: {error.strerror}") from error


def _text_in() -> str:
    """What comes in on standard input; raises FileProblem where nothing or too much does."""
    raw = getattr(sys.stdin, "buffer", sys.stdin)
    content = b"" if raw is None else raw.read(SIZE_LIMIT + 1)
    if len(content) > SIZE_LIMIT:
        raise FileProblem(f"standard input is over {SIZE_LIMIT // 1_000_000} MB; not read")
    if not content:
        raise FileProblem("nothing came in on standard input")
    if isinstance(content, str):
        return content.removeprefix("\ufeff")
    try:
        return content.decode("utf-8").removeprefix("\ufeff")
    except UnicodeDecodeError as error:
        raise FileProblem("standard input is not text in UTF-8") from error


@contextlib.contextmanager
def readable(path: Path, failed: str = "could not be worked out") -> Iterator[None]:
    """Nothing but FileProblem comes out of reading ``path`` and working it out.

    ``failed`` says what became of a file that something else came out of.
    """
    try:
        yield
    except FileProblem:
        raise
    except Exception as error:
        raise FileProblem(
            f"{path.name} {failed} ({type(error).__name__}: {str(error)[:200]}); "
            "the file is untouched, and nothing was changed"
        ) from error


def check_header(text: str, where: str, wanted: str, version: int) -> dict[str, Any]:
    """The JSON object that ``text`` is; raises FileProblem where it is none of format ``wanted``
    and a known version.
    """
    try:
        document = json.loads(text, object_pairs_hook=_each_once)
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
    except ValueError as error:
        raise FileProblem(f"{where}: {_told(error)}") from error
    except RecursionError as error:
        raise FileProblem(f"{where}: nested too deeply to be a {wanted} file") from error
    if not isinstance(document, dict) or document.get("format") != wanted:
        raise FileProblem(f"{where} is not a {wanted} file: it lacks “format”: “{wanted}”")
    found = document.get("version")
    if not isinstance(found, int) or isinstance(found, bool) or found < 1:
        raise FileProblem(f"{where}: version {found!r} was given; accepted: {version}")
    if found > version:
        raise NewerFile(
            f"{where} was written by a newer Lumvak (version {found}); this one reads up to "
            f"version {version}. The file is untouched"
        )
    return document


def _each_once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    """A JSON object; raises ValueError where a key stands there twice."""
    found = dict(pairs)
    if len(found) < len(pairs):
        keys = [key for key, _ in pairs]
        twice = next(key for key in keys if keys.count(key) > 1)
        raise ValueError(f"“{twice[:60]}” stands there twice; accepted: once")
    return found


def _told(error: ValueError) -> str:
    """What is wrong with JSON that is well-formed."""
    text = str(error)
    return text if text.startswith("“") else "a number has too many digits; accepted: 300 or fewer"


def stamp_of(path: Path) -> str | None:
    """What a file holds, as a digest; ``None`` where there is none to be read."""
    try:
        check_size(path)
        return hashlib.sha256(path.read_bytes()).hexdigest()
    except (FileProblem, OSError):
        return None


def same_file(one: Path, two: Path) -> bool:
    """Whether two paths lead to one file that is there."""
    try:
        return one.samefile(two)
    except OSError:
        return False


def file_name(words: str, suffix: str) -> str:
    """A file name from a project's name: one name, in one folder, that every disk takes."""
    plain = re.sub(r"[\x00-\x1f\x7f/\\<>:\"|?*]+", "-", words).strip(" .-")
    short = plain.encode("utf-8", "ignore")[:LONGEST_NAME].decode("utf-8", "ignore").strip(" .-")
    return f"{short or 'project'}{suffix}"


def write_atomically(path: Path, content: str | bytes, *, to_disk: bool = True) -> None:
    """Write ``content``, whole or not at all; raises FileProblem and leaves the old file.

    ``to_disk`` waits until it is on the disk itself; without it a crash of the program is
    survived, a power cut at that very moment perhaps not.
    """
    temporary = None
    try:
        held = content.encode("utf-8") if isinstance(content, str) else content
    except UnicodeEncodeError as error:
        raise FileProblem(f"{path} was not saved: a text in it holds no characters") from error
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        target = path.resolve()
        before = target.stat() if target.exists() else None
        if before is not None and not stat.S_ISREG(before.st_mode):
            raise FileProblem(f"{path} was not saved: it is no plain file; name another")
        if before is not None and not before.st_mode & 0o222:
            raise FileProblem(
                f"{path} was not saved: the file may not be written. Your work is kept; save it "
                "elsewhere"
            )
        shared = before is not None and before.st_nlink > 1
        handle, temporary = tempfile.mkstemp(
            prefix=f".{target.name}.", suffix=WHOLE if shared else "", dir=target.parent
        )
        with os.fdopen(handle, "wb") as stream:
            stream.write(held)
            stream.flush()
            if to_disk:
                os.fsync(stream.fileno())
        mode = 0o666 & ~_umask() if before is None else before.st_mode & 0o777
        os.chmod(temporary, mode)
        if shared:
            _write_through(Path(temporary), target)
        else:
            os.replace(temporary, target)
        _sweep_beside(target)
    except (OSError, RuntimeError) as error:
        # Links that lead in a circle are no OSError.
        if temporary is not None:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        why = getattr(error, "strerror", None) or "its links lead in a circle"
        raise FileProblem(
            f"{path} was not saved: {why}. Your work is kept; save it elsewhere"
        ) from error


def _sweep_beside(target: Path) -> None:
    """Remove what earlier writes of ``target`` left half-written when they were killed.

    What is whole beside a file of several names stays: it may hold what that file does not.
    """
    half = re.compile(re.escape(f".{target.name}.") + r"[a-z0-9_]{8}")
    with contextlib.suppress(OSError), os.scandir(target.parent) as found:
        for item in found:
            if half.fullmatch(item.name) and (
                time.time() - item.stat(follow_symlinks=False).st_mtime > HALF_WRITTEN_S
            ):
                os.unlink(item.path)


def _write_through(whole: Path, target: Path) -> None:
    """Write into a file that has other names too, so that all of them go on being one file.

    ``whole`` holds it all beside it until that is done; the room is taken before anything is
    written over.
    """
    content = whole.read_bytes()
    with target.open("r+b") as stream:
        old = os.fstat(stream.fileno()).st_size
        try:
            os.posix_fallocate(stream.fileno(), 0, max(len(content), 1))
        except OSError:
            stream.truncate(old)
            raise
        try:
            stream.write(content)
            stream.truncate()
            stream.flush()
            os.fsync(stream.fileno())
        except OSError as error:
            raise FileProblem(
                f"{target} was written in part only: {error.strerror}. All of it is in {whole}"
            ) from error
    with contextlib.suppress(OSError):
        whole.unlink()


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask
