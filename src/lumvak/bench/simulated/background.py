"""A simulated bench in a thread of its own, gone when it is closed."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Mapping

from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.bench.simulated.servers import Servers

LONGEST_S = 10.0


class BackgroundBench:
    """Serves a simulated pack beside the program; ``resources`` by the name of the instrument."""

    def __init__(self, pack: SimulatedPack, seed: int, speed: float = 0.0) -> None:
        self.loop = asyncio.new_event_loop()
        self.servers = Servers(pack, seed, speed)
        self.thread = threading.Thread(target=self.loop.run_forever, daemon=True)
        self.thread.start()
        started = asyncio.run_coroutine_threadsafe(self.servers.start(), self.loop)
        self.resources: Mapping[str, str] = started.result(LONGEST_S)

    def close(self) -> None:
        """Stop serving."""
        if self.loop.is_closed():
            return
        asyncio.run_coroutine_threadsafe(self.servers.close(), self.loop).result(LONGEST_S)
        self.loop.call_soon_threadsafe(self.loop.stop)
        self.thread.join(LONGEST_S)
        self.loop.close()

    def __enter__(self) -> BackgroundBench:
        """The bench itself."""
        return self

    def __exit__(self, *_: object) -> None:
        """Stop serving, whatever happened."""
        self.close()
