"""Holds labels and passports against another program's reader: ./bench record [labels [mutated]].

Labels of random projects are printed at 300 dpi, turned, blurred and strewn with specks: the
passport comes back whole. Mutated passports are refused in one line, or read with what was dropped
named; nothing raises. Reports hold every figure that they should, on their pages.
"""

from __future__ import annotations

import io
import random
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

import numpy as np
import pypdfium2
from PIL import Image
from scipy.ndimage import gaussian_filter

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.needs import builders_need

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.evaluate import evaluate
from lumvak.core.record_of_pack.label import label_of
from lumvak.core.record_of_pack.passport import passport_of
from lumvak.core.record_of_pack.report import SHOWN
from lumvak.core.said import say
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.export.formats import report_bytes
from lumvak.files.export.label import DrawnLabel, drawn_label, label_png
from lumvak.files.label_reader import read_label
from lumvak.files.passport import passport_text, read_passport
from lumvak.files.problem import FileProblem

LABELS, MUTATED, REPORT_S = 300, 2000, 3.0
READ = 0.99
TURNED_DEG, BLURRED, SPECKS, DPI = 2.0, 0.25, 0.04, 300.0
SIZES = ((100.0, 60.0), (80.0, 60.0), (90.0, 50.0), (120.0, 70.0), (60.0, 90.0))


def spoilt(label: DrawnLabel, generator: np.random.Generator) -> Image.Image:
    """The label as a worn print: turned, blurred by a quarter of a module, strewn with specks."""
    picture = Image.open(io.BytesIO(label_png(label, "label", DPI)))
    turned = picture.rotate(
        float(generator.choice((-1.0, 1.0))) * TURNED_DEG,
        resample=Image.Resampling.BICUBIC,
        expand=True,
        fillcolor=255,
    )
    sigma = BLURRED * label.module_mm / 25.4 * DPI
    pixels = gaussian_filter(np.asarray(turned, float), sigma)
    specks = generator.random(pixels.shape) < SPECKS
    pixels[specks] = generator.integers(0, 2, int(specks.sum())) * 255.0
    return Image.fromarray(np.clip(pixels, 0, 255).astype(np.uint8))


def main(labels: int, mutated: int) -> int:
    """Print what was found; 0 where all holds."""
    begun = time.perf_counter()
    catalogue = load_catalogue(own=Path("/nonexistent"))[0]
    counts: Counter[str] = Counter()
    passports: list[Passport] = []
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "label.png"
        for seed in range(labels):
            passport = passport_of(evaluate(builders_need(seed), catalogue))
            passports.append(passport)
            generator = np.random.default_rng(seed)
            label = _label(passport, SIZES[seed % len(SIZES)], counts)
            if label is None:
                continue
            spoilt(label, generator).save(path)
            counts["printed"] += 1
            try:
                whole = read_label(str(path)).passport == passport
            except FileProblem as problem:
                whole = False
                print(seed, problem, f"{label.module_mm:.2f} mm", flush=True)
            counts["read"] += whole
    print(dict(counts))
    bad = ["labels"] if counts["read"] < READ * counts["printed"] else []
    bad += _mutated(passports, mutated)
    bad += _reports(catalogue, labels)
    print(f"{time.perf_counter() - begun:.0f} s: {'held' if not bad else 'MISSED: ' + str(bad)}")
    return int(bool(bad))


def _label(
    passport: Passport, size: tuple[float, float], counts: Counter[str]
) -> DrawnLabel | None:
    """The label of a size, or of that which it is refused with."""
    try:
        return drawn_label(label_of(passport), *size)
    except FileProblem as problem:
        counts["refused at first"] += 1
        words = str(problem).split()
        if "x" not in words:
            print("no size", problem)
            counts["no size"] += 1
            return None
        place = words.index("x")
        return drawn_label(label_of(passport), float(words[place - 1]), float(words[place + 1]))


def _reports(catalogue: Catalogue, count: int) -> list[str]:
    """Reports of random projects, opened by other readers: every figure, nothing over its page."""
    bad: list[str] = []
    longest = 0.0
    for seed in range(count):
        evaluation = evaluate(builders_need(seed), catalogue)
        begun = time.perf_counter()
        made = report_bytes(evaluation, "report")
        page = report_bytes(evaluation, "report-html").decode("utf-8")
        longest = max(longest, 0.5 * (time.perf_counter() - begun))
        keys = [key for keys in SHOWN.values() for key in keys if key in evaluation.figures]
        document = pypdfium2.PdfDocument(made)
        text = ""
        for sheet in document:
            words = sheet.get_textpage()
            text += " ".join(words.get_text_range().split()) + " "
            wide, tall = sheet.get_size()
            for place in range(words.count_rects()):
                left, low, right, high = words.get_rect(place)
                if not (0.0 < left < right < wide and 0.0 < low < high < tall):
                    bad.append(f"{seed}: text over the page")
        for key in keys:
            figure = evaluation.figures[key]
            told = f"{spoken(figure.label)} {spoken(say(figure.value, figure.unit))}"
            if "".join(told.split()) not in "".join(text.split()):
                bad.append(f"{seed}: {told} is not in the PDF")
            if f'data-key="{key}"' not in page:
                bad.append(f"{seed}: {key} is not in the HTML")
    print(f"reports: {count}, the longest {longest:.2f} s, {len(bad)} faults")
    for line in bad[:8]:
        print(line)
    return ["reports"] if bad or longest > REPORT_S else []


def _mutated(passports: list[Passport], count: int) -> list[str]:
    draw = random.Random(5)
    told: Counter[str] = Counter()
    bad = []
    for turn in range(count):
        text = list(passport_text(draw.choice(passports), packed=bool(turn % 2)))
        for _ in range(draw.randrange(1, 6)):
            place = draw.randrange(len(text))
            kind = draw.randrange(3)
            if kind == 0:
                text[place] = chr(draw.randrange(32, 127))
            elif kind == 1:
                del text[place]
            else:
                text.insert(place, draw.choice(['"', "{", "[", "9", "e", "-", "\u0000", "null"]))
        try:
            read = read_passport("".join(text))
            told["read, some dropped" if read.dropped else "read"] += 1
        except FileProblem as problem:
            told["refused"] += 1
            if "\n" in str(problem) or len(str(problem)) > 400:
                bad.append(f"more than a line: {problem!s:.80}")
        except Exception as problem:
            bad.append(f"{type(problem).__name__} {''.join(text)!r:.120}")
    print(dict(told))
    for line in bad[:10]:
        print(line)
    return ["mutated"] if bad else []


if __name__ == "__main__":
    numbers = [int(it) for it in sys.argv[1:]]
    sys.exit(main(numbers[0] if numbers else LABELS, numbers[1] if len(numbers) > 1 else MUTATED))
