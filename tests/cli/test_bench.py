"""``lumvak bench``: one resource a line, any client, gone once it is interrupted."""

import os
import signal
import socket
import subprocess
import sys

import pytest

from tests.conftest import BARROW

SOURCE = BARROW.parents[3]


def test_it_prints_its_resources_and_serves_until_interrupted() -> None:
    command = [sys.executable, "-m", "lumvak", "bench", "--simulate", str(BARROW), "--seed", "3"]
    env = {**os.environ, "PYTHONPATH": str(SOURCE)}
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=env) as process:
        assert process.stdout is not None
        lines = [process.stdout.readline().split() for _ in range(5)]
        assert [it[0] for it in lines] == ["meter", "supply", "load", "thermometer", "bms"]
        _, host, port, kind = lines[0][1].split("::")
        assert kind == "SOCKET"
        with socket.create_connection((host, int(port)), 10) as line:
            line.sendall(b"*idn?\n")
            assert b"simulated meter" in line.recv(200)
        process.send_signal(signal.SIGINT)
        assert process.wait(20) == 0
    with pytest.raises(OSError):
        socket.create_connection((host, int(port)), 1)
