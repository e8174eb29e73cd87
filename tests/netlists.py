"""Reads the netlist of packs in parallel and runs it: a solver of its own, for it knows no pack."""

from __future__ import annotations

import re
import shutil
import subprocess
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from scipy.integrate import solve_ivp

Array = NDArray[np.float64]
PWL = re.compile(r"pwl\(V\((\w+)\),([^)]*)\)")
ROW = re.compile(r"\d+\s+[-+\d.e]+\s")


def _curve(line: str) -> tuple[Array, Array]:
    found = PWL.search(line)
    assert found is not None
    numbers = np.array([float(it) for it in found[2].split(",")])
    return numbers[::2], numbers[1::2]


def read_and_run(text: str) -> Array:
    """(m, k + 2) seconds, amps of each pack and volts of all, by the elements of the netlist."""
    lines = text.splitlines()
    farads, begins, rests, ohms = [], [], [], []
    load_a = load_w = 0.0
    ends_s = 0.0
    for line in lines:
        words = line.split()
        if line.startswith("Csoc"):
            farads.append(float(words[3]))
            begins.append(float(words[4].partition("=")[2]))
        elif line.startswith("Bemf"):
            rests.append(_curve(line))
        elif line.startswith("Bend"):
            ohms.append(_curve(line))
        elif line.startswith("ILOAD"):
            load_a = float(words[-1])
        elif line.startswith("BLOAD"):
            load_w = float(line.partition("I=")[2].partition("/")[0])
        elif line.startswith(".tran"):
            ends_s = float(words[2])

    def flows(soc: Array) -> tuple[Array, float]:
        emf = np.array([np.interp(x, *it) for x, it in zip(soc, rests, strict=True)])
        siemens = np.array([1.0 / np.interp(x, *it) for x, it in zip(soc, ohms, strict=True)])
        open_v, whole = float((emf * siemens).sum() / siemens.sum()), float(siemens.sum())
        volts = open_v - load_a / whole
        for _ in range(60 * (load_w > 0.0)):
            volts = open_v - load_w / volts / whole
        return (emf - volts) * siemens, volts

    told = np.linspace(0.0, ends_s, 400)
    done = solve_ivp(
        lambda _, soc: -flows(soc)[0] / np.array(farads),
        (0.0, ends_s),
        begins,
        t_eval=told,
        rtol=1e-9,
        atol=1e-12,
        max_step=ends_s / 400.0,
    )
    every = [flows(soc) for soc in done.y.T]
    return np.column_stack((done.t, np.array([it[0] for it in every]), [it[1] for it in every]))


def simulator() -> str | None:
    """A circuit simulator of this machine that reads netlists in batch; ``None`` for none."""
    return shutil.which("ngspice")


def simulated(text: str, folder: Path) -> Array:
    """The same as ``read_and_run``, by the simulator of this machine."""
    asked = text.replace(".end\n", ".print tran i(vi1) i(vi2) v(out)\n.end\n")
    file = folder / "pair.cir"
    file.write_text(asked, "utf-8")
    program = simulator()
    assert program is not None
    out = subprocess.run([program, "-b", str(file)], capture_output=True, text=True, check=False)
    rows = [it.split()[1:] for it in out.stdout.splitlines() if ROW.match(it)]
    return np.array([[float(it) for it in row] for row in rows if len(row) == 4])
