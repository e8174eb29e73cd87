"""Labels as SVG, PDF and PNG: black on white, text no smaller than 8 points, a code beside it."""

from __future__ import annotations

import io
import math
import re
from collections.abc import Iterator, Sequence
from typing import Any
from xml.sax.saxutils import escape

from msgspec import Struct
from msgspec.structs import asdict

from lumvak.core.checked import NotAccepted, made
from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.label import LabelFacts, charger_label_of, label_of
from lumvak.core.record_of_pack.passport import passport_of
from lumvak.core.spelling import PLAIN, Spelling, spoken
from lumvak.files.export.pdf import FONT, POINTS, printable, registered, width_pt
from lumvak.files.passport import passport_text
from lumvak.files.problem import FileProblem

# Text stands between these sizes in points; a title is so much larger than what is smallest.
LEAST_PT, MOST_PT, STEP_PT = 8.0, 16.0, 0.5
TITLE, LEADING = 1.5, 1.15
MARGIN_MM, GAP_MM = 2.0, 2.0
# A module of the code is no smaller than this, and no larger; around it stay so many empty.
MODULE_MM, MOST_MODULE_MM, QUIET = 0.4, 0.7, 4
# The code takes so much of a label's width at most, where its modules may be larger than needed.
CODE_SHARE = 0.42
PNG_DPI = 300.0
LONGEST_MM = 300.0
# A number stays on one line with its unit.
WITH_UNIT, NO_BREAK = re.compile(r"(?<=[0-9]) (?=(?:V|A|Ah|s|°C|°F)(?:[ ,;.]|$))"), "\u00a0"
SUFFIXES = (".svg", ".pdf", ".png")


class Written(Struct, frozen=True):
    """A text on a label: where its line stands in mm from the upper left, its size, its width."""

    x_mm: float
    y_mm: float
    size_pt: float
    text: str
    width_mm: float


class DrawnLabel(Struct, frozen=True):
    """A label as it is drawn: its texts, and the dark runs of its code, (x, y, width) in mm."""

    width_mm: float
    height_mm: float
    texts: tuple[Written, ...]
    runs: tuple[tuple[float, float, float], ...]
    module_mm: float


class _Code(Struct, frozen=True):
    rows: tuple[tuple[bool, ...], ...]

    @property
    def modules(self) -> int:
        """Modules along a side, with the quiet zone."""
        return len(self.rows) + 2 * QUIET


def label_bytes(
    evaluation: Evaluation,
    suffix: str,
    size_mm: tuple[float, float],
    spelling: Spelling = PLAIN,
    *,
    charger: bool = False,
) -> bytes:
    """The label of a pack, or of its charger, by a suffix of SUFFIXES; raises FileProblem."""
    passport = passport_of(evaluation)
    try:
        made(Passport, asdict(passport))
    except NotAccepted as problem:
        raise FileProblem(f"no label says this: {problem}") from None
    own = evaluation.charging.charger.name
    facts = charger_label_of(passport, own) if charger else label_of(passport)
    label = drawn_label(facts, *size_mm, spelling)
    title = f"{passport.name}: {'charger' if charger else 'label'}"
    if suffix == ".svg":
        return label_svg(label).encode("utf-8")
    return label_pdf(label, title) if suffix == ".pdf" else label_png(label, title)


def drawn_label(
    facts: LabelFacts, width_mm: float, height_mm: float, spelling: Spelling = PLAIN
) -> DrawnLabel:
    """A label of a size, its text as large as fits.

    Raises FileProblem with the size that fits, where this one does not.
    """
    code = None if facts.passport is None else _code(facts.passport)
    needed = 0.0 if code is None else code.modules * MODULE_MM
    least = needed + 2.0 * MARGIN_MM
    if height_mm < least or width_mm < least + TEXT_MM:
        raise _too_small(facts, code, spelling, max(width_mm, least + TEXT_MM), least)
    size = MOST_PT
    while size >= LEAST_PT:
        found = _laid(facts, code, width_mm, height_mm, size, spelling)
        if found is not None:
            return found
        size -= STEP_PT
    raise _too_small(facts, code, spelling, width_mm, height_mm)


# Beside a code there is room for a text of so many mm.
TEXT_MM = 25.0


def _too_small(
    facts: LabelFacts, code: _Code | None, spelling: Spelling, width_mm: float, height_mm: float
) -> FileProblem:
    """What to say of a size that does not fit: the least height at this width, or more of both."""
    for wide in (width_mm, 1.25 * width_mm, 1.6 * width_mm, 2.0 * width_mm, LONGEST_MM):
        tall = height_mm
        while tall <= LONGEST_MM:
            if _laid(facts, code, wide, tall, LEAST_PT, spelling) is not None:
                return FileProblem(
                    f"the label does not fit its size; at 8 points it fits on "
                    f"{math.ceil(wide)} x {math.ceil(tall)} mm"
                )
            tall += 1.0
    return FileProblem("the label does not fit any size up to 300 x 300 mm")


def _code(passport: Passport) -> _Code:
    """The smaller of the plain code and the packed one."""
    import segno

    made = [segno.make(passport_text(passport, it), error="m", micro=False) for it in (False, True)]
    best = min(made, key=lambda it: it.version)
    return _Code(tuple(tuple(bool(it) for it in row) for row in best.matrix))


def _laid(
    facts: LabelFacts,
    code: _Code | None,
    width_mm: float,
    height_mm: float,
    size_pt: float,
    spelling: Spelling,
) -> DrawnLabel | None:
    """The label with its smallest text of a size; ``None`` where it does not fit."""
    module = 0.0
    side = 0.0
    if code is not None:
        room = min(height_mm - 2.0 * MARGIN_MM, CODE_SHARE * width_mm)
        module = min(max(room / code.modules, MODULE_MM), MOST_MODULE_MM)
        side = code.modules * module
    left = width_mm - 2.0 * MARGIN_MM - (side + GAP_MM if code is not None else 0.0)
    if left < TEXT_MM / 2.0 or side > height_mm - 2.0 * MARGIN_MM + 1e-9:
        return None
    texts: list[Written] = []
    y = MARGIN_MM
    wanted = [(facts.title, TITLE), *((it.text, it.size) for it in facts.lines)]
    wanted += [(it, 1.0) for it in facts.cautions]
    for text, share in wanted:
        size = size_pt * share
        high = size * LEADING / POINTS
        plain = printable(spoken(text, spelling))[0]
        words = WITH_UNIT.sub(NO_BREAK, plain).split(" ")
        while words:
            beside = y < MARGIN_MM + side
            line = _filled(words, left if beside else width_mm - 2.0 * MARGIN_MM, size)
            if not line:
                return None
            whole = " ".join(line)
            texts.append(
                Written(MARGIN_MM, y + size / POINTS, size, whole, width_pt(whole, size) / POINTS)
            )
            words = words[len(line) :]
            y += high
    if y > height_mm - MARGIN_MM + 0.5:
        return None
    runs = [] if code is None else _runs(code, width_mm - MARGIN_MM - side, MARGIN_MM, module)
    return DrawnLabel(width_mm, height_mm, tuple(texts), tuple(runs), module)


def _filled(words: Sequence[str], width_mm: float, size_pt: float) -> list[str]:
    """The first of ``words`` that fit on a line; empty where not even one does."""
    line: list[str] = []
    for word in words:
        if width_pt(" ".join((*line, word)), size_pt) > width_mm * POINTS:
            break
        line.append(word)
    return line


def _runs(
    code: _Code, x_mm: float, y_mm: float, module_mm: float
) -> Iterator[tuple[float, float, float]]:
    for row, dark in enumerate(code.rows):
        column = 0
        while column < len(dark):
            if not dark[column]:
                column += 1
                continue
            begin = column
            while column < len(dark) and dark[column]:
                column += 1
            left = x_mm + (QUIET + begin) * module_mm
            yield left, y_mm + (QUIET + row) * module_mm, (column - begin) * module_mm


def label_svg(label: DrawnLabel) -> str:
    """The label as SVG, true to size."""
    texts = "".join(
        f'<text x="{it.x_mm:.3f}" y="{it.y_mm:.3f}" font-size="{it.size_pt / POINTS:.3f}" '
        f'textLength="{it.width_mm:.3f}" lengthAdjust="spacingAndGlyphs">'
        f"{escape(it.text)}</text>"
        for it in label.texts
    )
    path = "".join(
        f"M{x:.4f} {y:.4f}h{wide:.4f}v{label.module_mm:.4f}h-{wide:.4f}z"
        for x, y, wide in label.runs
    )
    code = f'<path d="{path}" fill="#000"/>' if path else ""
    size = f'width="{label.width_mm:g}mm" height="{label.height_mm:g}mm"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {size} '
        f'viewBox="0 0 {label.width_mm:g} {label.height_mm:g}">'
        f'<rect width="100%" height="100%" fill="#fff"/>'
        f'<g font-family="Barlow, sans-serif" fill="#000">{texts}</g>{code}</svg>\n'
    )


def label_pdf(label: DrawnLabel, title: str) -> bytes:
    """The label as a page of its own size."""
    from reportlab.pdfgen.canvas import Canvas

    registered()
    out = io.BytesIO()
    size = label.width_mm * POINTS, label.height_mm * POINTS
    canvas: Any = Canvas(out, pagesize=size, invariant=1)
    canvas.setTitle(title)
    for it in label.texts:
        canvas.setFont(FONT, it.size_pt)
        canvas.drawString(it.x_mm * POINTS, (label.height_mm - it.y_mm) * POINTS, it.text)
    for x, y, wide in label.runs:
        high = label.module_mm
        corner = x * POINTS, (label.height_mm - y - high) * POINTS
        canvas.rect(*corner, wide * POINTS, high * POINTS, stroke=0, fill=1)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def label_png(label: DrawnLabel, title: str, dpi: float = PNG_DPI) -> bytes:
    """The label as a picture with its resolution in it."""
    import pypdfium2

    page = pypdfium2.PdfDocument(label_pdf(label, title))[0]
    picture = page.render(scale=dpi / 72.0).to_pil().convert("L")
    out = io.BytesIO()
    picture.save(out, "PNG", dpi=(dpi, dpi))
    return out.getvalue()
