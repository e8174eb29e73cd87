"""Files are written whole or not at all, and what a kill left beside them goes."""

import os
import time
from pathlib import Path

from lumvak.files.problem import HALF_WRITTEN_S, WHOLE, write_atomically


def test_what_earlier_writes_left_half_done_goes_and_nothing_else(tmp_path: Path) -> None:
    path = tmp_path / "pack.json"
    old = [tmp_path / name for name in (".pack.json.a1b2c3_4", ".pack.json.zzzzzzzz")]
    kept = [
        tmp_path / name
        for name in (
            f".pack.json.a1b2c3_4{WHOLE}",
            ".pack.json.swp",
            ".other.json.a1b2c3_4",
            "pack.json.a1b2c3_4",
            ".pack.json.YOUNGER1",
        )
    ]
    young = tmp_path / ".pack.json.younger1"
    for item in (*old, *kept, young):
        item.write_text("half", "utf-8")
    long_ago = time.time() - HALF_WRITTEN_S - 5.0
    for item in (*old, *kept):
        os.utime(item, (long_ago, long_ago))
    write_atomically(path, "whole")
    assert sorted(tmp_path.iterdir()) == sorted([path, *kept, young])


def test_what_is_beside_a_file_of_two_names_is_named_as_whole(tmp_path: Path) -> None:
    path, other = tmp_path / "one.json", tmp_path / "two.json"
    path.write_text("old", "utf-8")
    other.hardlink_to(path)
    seen: list[str] = []
    fsync = os.fsync

    def watched(handle: int) -> None:
        seen.extend(item.name for item in tmp_path.iterdir() if item.name.startswith("."))
        fsync(handle)

    os.fsync = watched
    try:
        write_atomically(path, "new")
    finally:
        os.fsync = fsync
    assert seen and all(name.endswith(WHOLE) for name in seen)
    assert sorted(tmp_path.iterdir()) == [path, other]
