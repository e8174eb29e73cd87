"""That a command is still at work, said where somebody looks on."""

from __future__ import annotations

import contextlib
import sys
import threading
import time
from collections.abc import Iterator

# From here on it is said, and so often.
WAIT_S, EVERY_S = 2.0, 0.5


@contextlib.contextmanager
def ticking(command: str, wait_s: float = WAIT_S) -> Iterator[None]:
    """Say on the error stream how long a command has worked, once that is over ``wait_s``.

    Only where that stream is a terminal; what was said is wiped off at the end.
    """
    stream = sys.stderr
    if stream is None or not stream.isatty():
        yield
        return
    done, begun = threading.Event(), time.monotonic()

    def tick() -> None:
        said = done.wait(wait_s)
        while not said:
            stream.write(f"\r{command}: {time.monotonic() - begun:.0f} s … (Ctrl+C ends it)\x1b[K")
            stream.flush()
            said = done.wait(EVERY_S)

    thread = threading.Thread(target=tick, daemon=True)
    thread.start()
    try:
        yield
    finally:
        done.set()
        thread.join()
        if time.monotonic() - begun >= wait_s:
            stream.write("\r\x1b[K")
            stream.flush()
