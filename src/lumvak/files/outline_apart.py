"""A drawing read in a process of its own, which can be stopped and takes no more than it is given.

The readers of drawings are libraries that cannot be called off, and a drawing comes from anywhere.
"""

from __future__ import annotations

import json
import os
import resource
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from msgspec.structs import asdict

import lumvak
from lumvak.core.checked import made
from lumvak.core.document.arrangement import Hole
from lumvak.files.outline_file import Outline, load_outline
from lumvak.files.problem import FileProblem

KeepOn = Callable[[float], bool]
LONGEST_S, ASKED_S = 20.0, 0.05
MEMORY_BYTES = 2_000_000_000


def load_outline_apart(path: Path, keep_on: KeepOn) -> Outline:
    """Read an outline as ``load_outline`` does; raises FileProblem also where it took too much.

    ``keep_on`` is asked twenty times a second, with the share of the time allowed that is gone,
    whether to go on.
    """
    begin = time.monotonic()
    # The program as it runs here, and nothing that lies where the builder happens to stand.
    places = [str(Path(lumvak.__file__).parents[1]), os.environ.get("PYTHONPATH", "")]
    with subprocess.Popen(
        [sys.executable, "-P", "-m", "lumvak.files.outline_apart", str(path.absolute())],
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        env={**os.environ, "PYTHONPATH": os.pathsep.join(filter(None, places))},
    ) as child:
        try:
            while True:
                try:
                    said, _ = child.communicate(timeout=ASKED_S)
                    break
                except subprocess.TimeoutExpired:
                    gone = (time.monotonic() - begin) / LONGEST_S
                    if not keep_on(min(gone, 1.0)):
                        raise FileProblem(
                            f"{path.name}: reading was stopped; nothing was changed"
                        ) from None
                    if gone > 1.0:
                        raise FileProblem(
                            f"{path.name}: takes over {LONGEST_S:g} s to read; accepted: the "
                            "outline alone, in plain shapes"
                        ) from None
        finally:
            child.kill()
    return _taken(path, said)


def _taken(path: Path, said: bytes) -> Outline:
    """What the other process said; raises FileProblem."""
    if not said:
        raise FileProblem(
            f"{path.name}: reading it took too much memory; accepted: the outline alone"
        )
    record = json.loads(said)
    if "problem" in record:
        raise FileProblem(record["problem"])
    return Outline(
        tuple((x, y) for x, y in record["corners"]),
        tuple(tuple((x, y) for x, y in ring) for ring in record["cut_outs"]),
        tuple(made(Hole, item) for item in record["holes"]),
        tuple(record["ignored"]),
    )


def main() -> None:
    """Read the drawing named on the command line, and print its outline or what is wrong."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    try:
        found = asdict(load_outline(Path(sys.argv[1])))
        record = {**found, "holes": [asdict(hole) for hole in found["holes"]]}
    except FileProblem as problem:
        record = {"problem": str(problem)}
    print(json.dumps(record))


if __name__ == "__main__":
    main()
