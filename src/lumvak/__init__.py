"""Lumvak: sizing and building battery packs for light electric vehicles and power tools."""

import os

__version__ = "1.0.0"

# The matrices here are small: on several threads the linear algebra waits for itself, many times
# as long as it computes. Set before NumPy loads; who wants otherwise sets it outside.
for _name in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS"):
    os.environ.setdefault(_name, "1")
