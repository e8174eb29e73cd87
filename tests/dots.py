"""A picture as numbers."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtGui import QImage


def dots(image: QImage) -> NDArray[np.uint8]:
    """(height, width, 4) blue, green, red and how opaque each dot of a picture is."""
    plain = image.convertToFormat(QImage.Format.Format_ARGB32)
    bits = plain.constBits()
    assert bits is not None
    bits.setsize(plain.sizeInBytes())
    return np.frombuffer(bytes(bits), np.uint8).reshape(plain.height(), plain.width(), 4)
