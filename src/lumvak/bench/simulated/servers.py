"""Small servers on the loopback address, one an instrument, on ports of their own choice."""

from __future__ import annotations

import asyncio
import contextlib
import time
from collections.abc import Mapping

from lumvak.bench.simulated.instruments import NAMES, Bench, interpreters
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.bench.simulated.scpi import LONGEST, Interpreter, ScpiError

LOOPBACK = "127.0.0.1"
CHUNK = 65_536
# A client that takes nothing for so long is let go, in s.
PATIENCE_S = 30.0


def clock(speed: float) -> Clock:
    """A clock that runs so many times as fast as the one on the wall."""
    return Clock(speed)


class Clock:
    """Seconds that have passed since it was last asked, times a speed."""

    def __init__(self, speed: float) -> None:
        self.speed, self.last = speed, time.monotonic()

    def __call__(self) -> float:
        """The seconds since the last call."""
        now = time.monotonic()
        span, self.last = now - self.last, now
        return span * self.speed


class Servers:
    """The servers of a bench; started once, they serve until they are closed."""

    def __init__(self, pack: SimulatedPack, seed: int, speed: float) -> None:
        self.bench = Bench(pack, seed, Clock(speed))
        self.interpreters = interpreters(self.bench)
        self.running: list[asyncio.Server] = []
        self.ports: dict[str, int] = {}

    async def start(self) -> Mapping[str, str]:
        """Listen on loopback alone; the resource of each instrument by its name."""
        for name in NAMES:
            server = await asyncio.start_server(
                self._serving(self.interpreters[name]), LOOPBACK, 0, limit=CHUNK
            )
            self.running.append(server)
            self.ports[name] = server.sockets[0].getsockname()[1]
        return {name: f"TCPIP0::{LOOPBACK}::{port}::SOCKET" for name, port in self.ports.items()}

    def _serving(self, interpreter: Interpreter):  # type: ignore[no-untyped-def]
        async def serve(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
            with contextlib.suppress(ConnectionError, TimeoutError, OSError):
                await self._talk(interpreter, reader, writer)
            with contextlib.suppress(ConnectionError, OSError):
                writer.close()

        return serve

    async def _talk(
        self, interpreter: Interpreter, reader: asyncio.StreamReader, writer: asyncio.StreamWriter
    ) -> None:
        """Answer line by line; what is too long is thrown away up to its end."""
        held, too_long = b"", False
        while data := await reader.read(CHUNK):
            *lines, held = (held + data).split(b"\n")
            for line in lines:
                if too_long or len(line) > LONGEST:
                    interpreter.errors.append(str(ScpiError(-223, "Too much data")))
                    too_long = False
                    continue
                if (answer := self.answer(interpreter, line)) is not None:
                    writer.write(answer.encode("ascii") + b"\n")
                    await asyncio.wait_for(writer.drain(), PATIENCE_S)
            if len(held) > LONGEST:
                held, too_long = b"", True

    def answer(self, interpreter: Interpreter, line: bytes) -> str | None:
        """The answer to a line as it came."""
        text = line.decode("ascii", "replace").strip("\r \t\x00")
        self.bench.catch_up()
        return interpreter.line(text)

    async def close(self) -> None:
        """Stop listening."""
        for server in self.running:
            server.close()
        self.running.clear()
