"""A passport from the picture of a label, or from its drawing."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from lumvak.files.passport import ReadPassport, read_passport
from lumvak.files.problem import FileProblem, read_text

PICTURES = (".png", ".jpg", ".jpeg", ".bmp", ".tif", ".tiff", ".webp")
# No picture of more pixels, and no drawing of more runs, is looked at.
MOST_PIXELS, MOST_RUNS = 60_000_000, 40_000
# A drawing is laid out with so many pixels a mm.
PX_A_MM = 12.0
MEDIAN_PX = (3, 5)
RUN = re.compile(r"M([\d.]+) ([\d.]+)h([\d.]+)v([\d.]+)h-[\d.]+z")


def read_label(given: str) -> ReadPassport:
    """A passport from a file with a picture or a drawing of a label, or from the text of its code.

    Raises FileProblem.
    """
    path = Path(given)
    suffix = path.suffix.lower()
    if suffix in PICTURES:
        return read_passport(_text_in(_picture(path)))
    if suffix == ".svg":
        return read_passport(_text_in(_drawing(read_text(path), path.name)))
    return read_passport(given)


def _picture(path: Path) -> NDArray[np.uint8]:
    from PIL import Image

    try:
        with Image.open(path) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise FileProblem(f"{path.name}: more than {MOST_PIXELS // 1_000_000} megapixels")
            return np.asarray(picture.convert("L"))
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError) as problem:
        raise FileProblem(f"{path.name} is no picture: {problem}") from None


def _drawing(text: str, name: str) -> NDArray[np.uint8]:
    """The dark runs of a drawn code as a picture."""
    runs = [tuple(map(float, it)) for it in RUN.findall(text)[:MOST_RUNS]]
    if not runs:
        raise FileProblem(f"{name}: no code is drawn in it")
    spans = np.array(runs)
    corner = spans[:, :2].min(axis=0) - 5.0 * spans[0, 3]
    ends = (spans[:, :2] + spans[:, 2:]).max(axis=0) - corner + 5.0 * spans[0, 3]
    if (ends > 1000.0).any():
        raise FileProblem(f"{name}: a code of more than a metre")
    px = np.ceil(ends * PX_A_MM).astype(int)
    picture = np.full((px[1], px[0]), 255, np.uint8)
    for x, y, wide, high in spans - np.array([*corner, 0.0, 0.0]):
        across = slice(round(x * PX_A_MM), round((x + wide) * PX_A_MM))
        picture[round(y * PX_A_MM) : round((y + high) * PX_A_MM), across] = 0
    return picture


def _text_in(picture: NDArray[np.uint8]) -> str:
    """The text of the code in a picture: as it is, then cleaned of specks by a median."""
    import zxingcpp
    from scipy.ndimage import median_filter

    for size in (1, *MEDIAN_PX):
        clean = picture if size == 1 else median_filter(picture, size=size)
        for code in zxingcpp.read_barcodes(clean):
            if code.text:
                return str(code.text)
    raise FileProblem("no code can be read in the picture")
