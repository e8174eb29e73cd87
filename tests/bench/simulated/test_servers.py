"""Servers on loopback: any client, and nothing that clients do does harm."""

import random
import socket
from collections.abc import Iterator

import pytest

from lumvak.bench.simulated.background import BackgroundBench
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.bench.simulated.scpi import LONGEST
from lumvak.core.proving.bench_pack import BenchPack


@pytest.fixture(scope="module")
def bench(bench_pack: BenchPack) -> Iterator[BackgroundBench]:
    with BackgroundBench(SimulatedPack(bench_pack, 1), 1) as made:
        yield made


def reached(bench: BackgroundBench, name: str) -> socket.socket:
    _, host, port, _ = bench.resources[name].split("::")
    made = socket.create_connection((host, int(port)), 10)
    made.settimeout(10)
    return made


def asked(line: socket.socket, text: bytes) -> bytes:
    line.sendall(text + b"\n")
    held = b""
    while not held.endswith(b"\n"):
        held += line.recv(4096)
    return held


def test_only_on_loopback_and_on_ports_of_their_own(bench: BackgroundBench) -> None:
    ports = [resource.split("::")[2] for resource in bench.resources.values()]
    assert len(set(ports)) == 5 and {it.split("::")[1] for it in bench.resources.values()} == {
        "127.0.0.1"
    }


def test_several_clients_at_once_and_lines_in_pieces(bench: BackgroundBench) -> None:
    with reached(bench, "meter") as one, reached(bench, "meter") as other:
        one.sendall(b"*ID")
        assert b"meter" in asked(other, b"*IDN?")
        one.sendall(b"N?\r\n")
        assert b"meter" in one.recv(200)


def test_a_line_of_a_megabyte_is_thrown_away(bench: BackgroundBench) -> None:
    with reached(bench, "load") as line:
        asked(line, b"*CLS;*OPC?")
        line.sendall(b"A" * 1_000_000)
        assert b"load" in asked(line, b"\n*IDN?")
        assert b"-223" in asked(line, b"SYST:ERR?")
    assert LONGEST < 1_000_000


def test_random_bytes_and_dropped_connections(bench: BackgroundBench) -> None:
    draw = random.Random(3)
    for _ in range(40):
        line = reached(bench, draw.choice(list(bench.resources)))
        for _ in range(20):
            line.sendall(bytes(draw.randrange(256) for _ in range(draw.randrange(60))) + b"\n")
        line.close()
    for name in bench.resources:
        with reached(bench, name) as line:
            assert name.encode() in asked(line, b"*IDN?")


def test_it_is_gone_once_it_is_closed(bench_pack: BenchPack) -> None:
    made = BackgroundBench(SimulatedPack(bench_pack, 1), 1)
    made.close()
    made.close()
    with pytest.raises(OSError):
        reached(made, "meter")
