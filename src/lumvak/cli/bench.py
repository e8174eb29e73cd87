"""``lumvak bench``: a simulated bench that any SCPI client can use, until it is interrupted."""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import signal

from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.bench.simulated.servers import Servers
from lumvak.cli.command import Refuse
from lumvak.cli.evaluate import read_evaluation
from lumvak.core.proved import bench_pack_of
from lumvak.core.spelling import Refused


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Serve until interrupted; 2 where the project or a fault is no good."""
    evaluation = read_evaluation("lumvak bench", chosen.simulate, chosen.catalogue)
    if evaluation is None:
        return 2
    try:
        pack = SimulatedPack(bench_pack_of(evaluation), chosen.seed, chosen.fault)
    except Refused as problem:
        refuse(f"--fault: {problem}")
    with contextlib.suppress(KeyboardInterrupt):
        asyncio.run(_serve(Servers(pack, chosen.seed, chosen.speed)))
    return 0


async def _serve(servers: Servers) -> None:
    """Print one resource a line, then serve until told to stop."""
    stop = asyncio.Event()
    loop = asyncio.get_running_loop()
    for number in (signal.SIGINT, signal.SIGTERM):
        with contextlib.suppress(NotImplementedError):
            loop.add_signal_handler(number, stop.set)
    for name, resource in (await servers.start()).items():
        print(f"{name} {resource}", flush=True)
    await stop.wait()
    await servers.close()
