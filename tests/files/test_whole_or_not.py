"""A save, an open and a change of own parts succeed whole or change nothing, wherever they fail."""

import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.kept.recovery import RecoveryCopy, left_over
from lumvak.files.own_parts import change_own, load_own, merged, own_file
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import load_project, save_project

OPERATIONS: tuple[tuple[Any, str], ...] = (
    (os, "fdopen"), (os, "fsync"), (os, "chmod"), (os, "replace"), (os, "utime"),
    (os, "posix_fallocate"), (tempfile, "mkstemp"), (Path, "mkdir"), (Path, "stat"),
    (Path, "read_text"), (Path, "read_bytes"), (Path, "open"), (Path, "unlink"),
    (Path, "replace"), (Path, "exists"),
)  # fmt: skip


class Killed(BaseException):
    """The process ends here."""


def failing_at(
    place: int, error: BaseException, monkeypatch: pytest.MonkeyPatch
) -> Callable[[], int]:
    """Let the operation on files of this number fail; gives how many there were."""
    done = 0

    def wrapped(real: Callable[..., Any]) -> Callable[..., Any]:
        def operation(*given: Any, **named: Any) -> Any:
            nonlocal done
            done += 1
            if done == place:
                raise error
            return real(*given, **named)

        return operation

    for module, name in OPERATIONS:
        monkeypatch.setattr(module, name, wrapped(getattr(module, name)))
    return lambda: done


def content(folder: Path) -> dict[str, bytes]:
    """All files but those that are half written."""
    return {
        str(path.relative_to(folder)): path.read_bytes()
        for path in sorted(folder.rglob("*"))
        if path.is_file() and not path.name.startswith(".") and path.suffix != ".lock"
    }


def every_failure(
    folder: Path,
    error: BaseException,
    before: dict[str, bytes],
    after: dict[str, bytes],
    act: Callable[[], object],
    restore: Callable[[], None],
) -> int:
    """Let each operation of ``act`` fail in turn; the files are as before or after it, no third."""
    place = 0
    while True:
        place += 1
        restore()
        raised, told = False, ""
        with pytest.MonkeyPatch.context() as patched:
            done = failing_at(place, error, patched)
            try:
                act()
            except FileProblem as problem:
                raised = True
                told = str(problem)
            except Killed:
                raised = True
        now = content(folder)
        assert now in (before, after), place
        if isinstance(error, OSError):
            litter = [path.name for path in folder.rglob(".*") if path.is_file()]
            # What a file of two names holds in part lies beside it whole, and is told.
            assert not raised or all(name in told for name in litter), (place, litter, told)
        if done() < place:
            assert not raised
            assert now == after
            return place - 1


# A file of two names cannot change at once: killed meanwhile, all of it lies beside it.
@pytest.mark.parametrize(
    ("error", "names"),
    [
        (OSError(28, "No space left on device"), 1),
        (Killed(), 1),
        (OSError(28, "No space left on device"), 2),
    ],
)
def test_a_save(
    barrow: Project, catalogue: Catalogue, tmp_path: Path, error: BaseException, names: int
) -> None:
    folder = tmp_path / "there"
    folder.mkdir()
    path = folder / "barrow.lumvak.json"
    other = tmp_path / "other.lumvak.json"
    fresh = with_values(barrow, {"need.current_a": 23.5})

    def restore() -> None:
        for left in folder.glob(".*"):
            left.unlink()
        path.unlink(missing_ok=True)
        other.unlink(missing_ok=True)
        save_project(barrow, path, catalogue)
        if names == 2:
            other.hardlink_to(path)

    save_project(fresh, path, catalogue)
    after = content(folder)
    restore()
    before = content(folder)
    assert (
        every_failure(
            folder, error, before, after, lambda: save_project(fresh, path, catalogue), restore
        )
        > 4
    )


@pytest.mark.parametrize("error", [OSError(28, "No space left on device"), Killed()])
def test_a_change_of_own_parts(catalogue: Catalogue, error: BaseException) -> None:
    one, two = (
        replace(cell, id=f"own-{place}", sample=False)
        for place, cell in enumerate(catalogue.cell_list[:2])
    )
    empty = load_own()
    start = change_own(empty, merged(empty, (one,)))
    folder = own_file().parent
    before = content(folder)
    both = merged(start, (two,))
    change_own(start, both)
    after = content(folder)

    def restore() -> None:
        own_file().write_bytes(before["own.json"])

    assert every_failure(folder, error, before, after, lambda: change_own(start, both), restore) > 6
    restore()
    assert load_own() == start
    assert "own-0" in load_catalogue()[0].cells


def test_an_open_and_a_recovery_answer_with_their_own_error(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    path = tmp_path / "barrow.lumvak.json"
    save_project(barrow, path, catalogue)
    copy = RecoveryCopy(tmp_path / "recovery")
    copy.write(barrow, path)
    copy.close()
    before = content(tmp_path)
    for place in range(1, 5):
        with pytest.MonkeyPatch.context() as patched:
            failing_at(place, OSError(5, "Input/output error"), patched)
            try:
                assert load_project(path, catalogue) == barrow
            except FileProblem as problem:
                assert "Input/output error" in str(problem)
        assert content(tmp_path) == before
    for place in range(1, 12):
        with pytest.MonkeyPatch.context() as patched:
            failing_at(place, OSError(5, "Input/output error"), patched)
            found, problems = left_over(tmp_path / "recovery", catalogue)
        assert found or problems or place < 3
        kept = [*(tmp_path / "recovery").rglob("copy-*.json")]
        assert len(kept) == 1
        if kept[0].parent.name == "broken":
            kept[0].rename(tmp_path / "recovery" / kept[0].name)
