"""The builder's own cells: kept in one file, and brought in or written out as JSON or CSV."""

from __future__ import annotations

import contextlib
import csv
import fcntl
import io
from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path
from typing import Any

from msgspec.structs import asdict, replace

from lumvak.core.catalogue.catalogue import PartsFile
from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.cells.cell_sheet import free_id, from_few
from lumvak.core.checked import NotAccepted, made, written
from lumvak.core.fields import fields_of
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import own_parts_folder, read_parts
from lumvak.files.problem import FileProblem, read_text, write_atomically
from lumvak.files.spreadsheet import harmless, unguarded

OWN_FILE = "own.json"
# Drawn discharges and pulses have no place in a row; they travel as JSON.
COLUMNS = tuple(name for name in fields_of(Cell) if name not in ("sample", "curves", "pulses"))
LISTS = ("measured", "guessed")
FEW = ("name", "continuous_a")
NEEDED = tuple(name for name, field in fields_of(Cell).items() if field.required)


def own_file() -> Path:
    """Where the builder's own cells are kept."""
    return own_parts_folder() / OWN_FILE


def load_own() -> PartsFile:
    """The builder's own parts; empty where there are none yet. Raises FileProblem."""
    path = own_file()
    return read_parts(read_text(path), path.name) if path.exists() else PartsFile(title="Own parts")


def change_own(before: PartsFile, after: PartsFile) -> PartsFile:
    """Keep what makes ``after`` of ``before``, on top of what another window kept meanwhile.

    Returns what is kept now; raises FileProblem and changes nothing where it cannot be.
    """
    with _alone():
        kept = with_change(load_own(), before, after)
        write_atomically(own_file(), parts_text(kept))
    return kept


def with_change(theirs: PartsFile, before: PartsFile, after: PartsFile) -> PartsFile:
    """The parts ``theirs`` with what was added, changed or taken out from ``before`` to ``after``.

    Where both changed the same part, the change made here stands.
    """
    changes: dict[str, Any] = {}
    for name in fields_of(PartsFile):
        old, new = getattr(before, name), getattr(after, name)
        if new == old:
            continue
        if not isinstance(new, tuple):
            changes[name] = new
            continue
        were, are = ({item.id: item for item in items} for items in (old, new))
        kept = {
            item.id: item for item in getattr(theirs, name) if item.id in are or item.id not in were
        }
        kept.update((key, item) for key, item in are.items() if were.get(key) != item)
        order = [*(key for key in are if key in kept), *(key for key in kept if key not in are)]
        changes[name] = tuple(kept[key] for key in order)
    return replace(theirs, **changes)


@contextlib.contextmanager
def _alone() -> Iterator[None]:
    """While no other window changes the builder's own parts; raises FileProblem."""
    lock = own_file().with_suffix(".lock")
    try:
        lock.parent.mkdir(parents=True, exist_ok=True)
        with lock.open("w") as held:
            fcntl.flock(held, fcntl.LOCK_EX)
            yield
    except OSError as error:
        raise FileProblem(f"Own parts cannot be kept: {error.strerror}") from error


def parts_text(parts: PartsFile) -> str:
    """A catalogue file as the JSON that is stored."""
    return written(parts, indent=1) + "\n"


def merged(
    parts: PartsFile, cells: Iterable[Cell], chemistries: Iterable[Chemistry] = ()
) -> PartsFile:
    """The parts with ``cells`` and ``chemistries`` in place of those of the same id, or added."""
    by_id = {cell.id: cell for cell in (*parts.cells, *cells)}
    curves = {item.id: item for item in (*parts.chemistries, *chemistries)}
    return replace(parts, cells=tuple(by_id.values()), chemistries=tuple(curves.values()))


def with_charger(parts: PartsFile, charger: Charger) -> PartsFile:
    """The parts with ``charger`` in place of one of the same id, or added."""
    by_id = {item.id: item for item in (*parts.chargers, charger)}
    return replace(parts, chargers=tuple(by_id.values()))


def cells_csv(cells: Sequence[Cell]) -> str:
    """Cells as CSV by RFC 4180: a header, commas, CRLF; texts that would run are made harmless."""
    stream = io.StringIO()
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for cell in cells:
        writer.writerow([_out(getattr(cell, name)) for name in COLUMNS])
    return stream.getvalue()


def _out(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, tuple):
        return " ".join(value)
    if isinstance(value, str):
        return harmless(value)
    return repr(value)


def read_cells_csv(text: str, where: str, like: Sequence[Cell] = ()) -> tuple[Cell, ...]:
    """Read cells from CSV with a header of field names; raises FileProblem naming line and field.

    Separators are comma or semicolon; a comma is decimal where semicolons separate. Columns stand
    in any order. With cells to be ``like`` a name, a capacity and a continuous current are enough:
    the rest is guessed after the first of them that has the chemistry and the form of the row.
    """
    plain = text.removeprefix("\ufeff")
    head = plain.split("\n", 1)[0]
    separator = ";" if head.count(";") > head.count(",") else ","
    rows = csv.reader(io.StringIO(plain, newline=""), delimiter=separator, strict=True)
    try:
        header = [name.strip() for name in next(rows, [])]
        _check_header(header, where, FEW if like else NEEDED)
        cells: list[Cell] = []
        for row in rows:
            if any(item.strip() for item in row):
                place = f"{where}, line {rows.line_num}"
                cells.append(_cell(header, row, place, separator == ";", like))
    except csv.Error as error:
        raise FileProblem(f"{where}, line {rows.line_num}: {error}") from error
    if not cells:
        raise FileProblem(f"{where} holds no cells, only a header")
    seen: set[str] = set()
    for cell in cells:
        if cell.id in seen:
            raise FileProblem(f"{where}: two cells have the id “{cell.id}”; accepted: one each")
        seen.add(cell.id)
    return tuple(cells)


def is_cells_csv(text: str) -> bool:
    """Whether the header of a table names fields of a cell, enough of them for one."""
    head = text.removeprefix("\ufeff").split("\n", 1)[0]
    names = [name.strip() for name in head.replace(";", ",").split(",")]
    with contextlib.suppress(FileProblem):
        _check_header(names, "", FEW)
        return True
    return False


def _check_header(header: list[str], where: str, needed: Sequence[str]) -> None:
    unknown = [name for name in header if name not in COLUMNS]
    if unknown:
        raise FileProblem(
            f"{where}, line 1: “{unknown[0]}” is no field of a cell; accepted: {', '.join(COLUMNS)}"
        )
    missing = [name for name in needed if name not in header]
    if not missing and not {"capacity_typical_ah", "capacity_min_ah"} & set(header):
        missing = ["capacity_typical_ah"]
    if missing:
        raise FileProblem(f"{where}, line 1: a column “{missing[0]}” is wanted")
    if len(set(header)) < len(header):
        raise FileProblem(f"{where}, line 1: a column stands there twice")


def _cell(
    header: list[str], row: list[str], place: str, decimal_comma: bool, like: Sequence[Cell]
) -> Cell:
    if len(row) != len(header):
        raise FileProblem(f"{place}: {len(row)} columns; the header has {len(header)}")
    document: dict[str, Any] = {}
    for name, text in zip(header, row, strict=True):
        if name in LISTS:
            document[name] = tuple(text.split())
        elif text.strip() or _kind(name) is str:
            document[name] = _in(name, text, place, decimal_comma)
    if like and set(NEEDED) - document.keys():
        document = asdict(from_few(_named(document), _alike(document, like, place)))
    try:
        return made(Cell, document)
    except NotAccepted as error:
        raise FileProblem(f"{place}: {spoken(error.wrongs[0].sentence)}") from error


def _named(document: dict[str, Any]) -> dict[str, Any]:
    """The row with an id, made from its name where it has none."""
    return {"id": free_id(document.get("name", ""), ()), **document}


SHAPE = ("format", "diameter_mm", "width_mm", "thickness_mm", "height_mm", "mass_g")


def _alike(document: dict[str, Any], like: Sequence[Cell], place: str) -> Cell:
    """A cell of the form and the chemistry that a row says, of two cells where none is both."""
    form = document.get("format", like[0].format)
    chemistry = document.get("chemistry", like[0].chemistry)
    shaped = [cell for cell in like if cell.format == form]
    akin = [cell for cell in like if cell.chemistry == chemistry]
    for found, what, name in ((shaped, "form", form), (akin, "chemistry", chemistry)):
        if not found:
            raise FileProblem(
                f"{place}: no cell of the {what} “{name}” is at hand to guess the rest after; "
                "accepted: with every column"
            )
    both = next((cell for cell in shaped if cell.chemistry == chemistry), None)
    return both or replace(akin[0], **{name: getattr(shaped[0], name) for name in SHAPE})


def _kind(name: str) -> type:
    """What a field is stored as: a text, a whole number or a number."""
    plain = fields_of(Cell)[name].accepts.plain
    return plain if plain in (int, float) else str


def _in(name: str, text: str, place: str, decimal_comma: bool) -> Any:
    kind = _kind(name)
    if kind is str:
        return unguarded(text)
    number = text.strip().replace(",", ".") if decimal_comma else text.strip()
    try:
        return int(number) if kind is int else float(number)
    except ValueError as error:
        raise FileProblem(f"{place}, {name}: “{text}” is no number") from error
