"""What must hold of the project as a whole: locks, wheel, layers of entry."""

import ast
import gc
import graphlib
import re
from collections import Counter
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest
from msgspec import Struct

ROOT = Path(__file__).parents[1]


@pytest.mark.parametrize("name", ["requirements.lock", "requirements-dev.lock"])
def test_locks_pin_everything_and_name_no_index(name: str) -> None:
    lines = [
        line for line in (ROOT / name).read_text("utf-8").splitlines() if not line.startswith("#")
    ]
    assert lines
    for line in lines:
        assert re.fullmatch(r"[A-Za-z0-9_.-]+==[A-Za-z0-9_.]+", line), line


def test_links_in_the_documents_lead_somewhere() -> None:
    pages = [ROOT / "README.md", *ROOT.glob("docs/*.md"), *ROOT.glob("src/lumvak/data/**/*.md")]
    for page in pages:
        for target in re.findall(r"\]\(([^)#]+)\)", page.read_text("utf-8")):
            assert (page.parent / target).exists(), f"{page.name}: {target}"


# The house: rooms, what they know of each other, and how large a room may be.

SOURCE = ROOT / "src" / "lumvak"
MOST_MODULES, MOST_LINES, MOST_FUNCTION, MOST_BY_PLACE = 20, 450, 60, 6
# What takes as many alike things as there are: the inputs of a figure, what is told, folded pieces.
OF_MANY = {"of", "assumed", "computed", "product", "phrase", "told", "flowing", "worded"}
# Words in the docstring of a longer function that tell why it is not two.
REASON = "long"


class Facts(Struct, frozen=True):
    """What the tests below ask of a module, read off its tree at once; the tree is let go."""

    imports: tuple[tuple[str, str], ...]
    functions: tuple[tuple[str, int, str], ...]
    private: tuple[tuple[int, str], ...]
    public: tuple[str, ...]
    by_place: tuple[tuple[int, str], ...]
    lines: int
    set_by_hand: tuple[int, ...]


@cache
def facts(path: Path) -> Facts:
    """What is asked of a module; its ``lines`` are those that are no tables."""
    # Trees are many small objects: to look through all that lives for each would take longest.
    gc.disable()
    try:
        text = path.read_text("utf-8")
        tree, rows = ast.parse(text), text.splitlines()
        imports, functions, private, by_place = [], [], [], []
        for node in ast.walk(tree):
            if isinstance(node, ast.ImportFrom):
                imports += [(str(node.module), alias.name) for alias in node.names]
            elif isinstance(node, ast.FunctionDef):
                length = (node.end_lineno or 0) - node.lineno + 1
                functions.append((node.name, length, ast.get_docstring(node) or ""))
            elif isinstance(node, ast.Attribute) and re.match(r"_[a-z]", node.attr):
                own = isinstance(node.value, ast.Name) and node.value.id in ("self", "cls")
                private += [] if own else [(node.lineno, node.attr)]
            elif isinstance(node, ast.Call):
                called = getattr(node.func, "attr", getattr(node.func, "id", ""))
                given = [part for part in node.args if not isinstance(part, ast.Starred)]
                steps = (
                    called in ("of", "settled") and bool(given) and isinstance(given[0], ast.Name)
                )
                given = given[steps:]
                if len(given) > MOST_BY_PLACE and called not in OF_MANY:
                    by_place.append((node.lineno, called))
        tables = {place for first, last in data_tables(tree) for place in range(first, last + 1)}
        by_hand = {place for place, row in enumerate(rows, 1) if row.endswith("# fmt: skip")}
        off = False
        for place, row in enumerate(rows, 1):
            off = row == "# fmt: off" or (off and row != "# fmt: on")
            by_hand |= {place} if off and row.strip() and row != "# fmt: off" else set()
        return Facts(
            tuple(imports),
            tuple(functions),
            private=tuple(private),
            public=tuple(public_names(tree)),
            by_place=tuple(by_place),
            lines=len(rows) - len(tables),
            set_by_hand=tuple(by_hand - tables),
        )
    finally:
        gc.enable()


def data_tables(tree: ast.Module) -> Iterator[tuple[int, int]]:
    """First and last line of every table of data: a value of a module or class, of several lines,
    of which nothing is worked out.
    """
    for body in (tree.body, *(node.body for node in tree.body if isinstance(node, ast.ClassDef))):
        for node in body:
            value = node.value if isinstance(node, ast.Assign | ast.AnnAssign) else None
            if isinstance(
                value, ast.Tuple | ast.List | ast.Dict | ast.Set | ast.Subscript | ast.Call
            ):
                worked = ast.comprehension | ast.Lambda | ast.IfExp | ast.JoinedStr | ast.BoolOp
                if not any(isinstance(part, worked) for part in ast.walk(value)):
                    yield node.lineno, node.end_lineno or node.lineno


@cache
def modules() -> dict[str, Path]:
    """Every module of the source by its dotted name."""
    return {
        ".".join(path.relative_to(SOURCE.parent).with_suffix("").parts).removesuffix(
            ".__init__"
        ): path
        for path in sorted(SOURCE.rglob("*.py"))
    }


def imported(path: Path, known: dict[str, Path]) -> set[str]:
    """The modules of ours that a module imports, wherever in it."""
    return {
        f"{module}.{name}" if f"{module}.{name}" in known else module
        for module, name in facts(path).imports
        if module.startswith("lumvak")
    }


def test_no_module_leads_back_to_itself() -> None:
    known = modules()
    graph = {name: imported(path, known) - {name} for name, path in known.items()}
    assert len(list(graphlib.TopologicalSorter(graph).static_order())) >= len(known)


def test_no_folder_and_no_file_grows_over_its_measure() -> None:
    folders = Counter(path.parent for path in modules().values())
    full = {str(folder): count for folder, count in folders.items() if count > MOST_MODULES}
    assert not full
    lines = {name: facts(path).lines for name, path in modules().items()}
    assert not {name: count for name, count in lines.items() if count > MOST_LINES}


def test_no_two_classes_bear_one_name() -> None:
    names = Counter(
        node.name
        for path in modules().values()
        for node in ast.parse(path.read_text("utf-8")).body
        if isinstance(node, ast.ClassDef)
    )
    assert not {name: count for name, count in names.items() if count > 1}


def test_only_tables_of_data_are_set_by_hand() -> None:
    paths = (*SOURCE.rglob("*.py"), *ROOT.glob("t*/**/*.py"))
    assert not {path.name: facts(path).set_by_hand for path in paths if facts(path).set_by_hand}


def test_what_takes_many_things_takes_them_by_name() -> None:
    assert not {
        name: facts(path).by_place for name, path in modules().items() if facts(path).by_place
    }


def test_a_long_function_says_why_it_is_not_two() -> None:
    for name, path in modules().items():
        for function, length, told in facts(path).functions:
            if length > MOST_FUNCTION:
                assert REASON in told.lower(), f"{name}.{function} has {length} lines: why?"


def twin(name: str) -> Path:
    """Where the tests of a module stand."""
    inner = name.split(".")[1:]
    if inner[:2] == ["ui", "stages"]:
        inner = ["ui", *inner[2:]]
    *rooms, leaf = inner
    return ROOT.joinpath("tests", *rooms, f"test_{leaf}.py")


def test_every_module_has_its_twin_in_tests() -> None:
    """What has none yet is listed, and the list may only shrink; records alone need none."""
    listed = set((ROOT / "tests" / "without_twin.txt").read_text("utf-8").split())
    without = {
        name
        for name, path in modules().items()
        if path.stem != "__init__" and facts(path).functions and not twin(name).exists()
    }
    assert not without - listed, "a new module wants tests of its own"
    assert not listed - without, "has a twin now, or is gone: take it off tests/without_twin.txt"


# Public names that nothing in the source calls by their name, and why they are there.
CALLED_BY_OTHERS = {
    "Qt": {"dragEnterEvent", "dropEvent", "drawRow", "enterEvent", "hoverEvent", "contextMenuEvent",
           "expandingDirections", "mouseDragEvent", "mouseClickEvent", "closeEvent",
           "mergeWith"},
    "settings, by the name of a part": {"line_shown", "margin_shown", "path_shown"},
    "balances that must come out, for tests to hold": {
        "stored_wh", "bleed_ah", "moved_wh", "leak_wh", "power_balance", "together_v",
        "names_px",
    },
}  # fmt: skip


def public_names(tree: ast.Module) -> Iterator[str]:
    """Functions, classes, constants, methods and fields of a module."""
    for node in tree.body:
        inner = node.body if isinstance(node, ast.ClassDef) else ()
        for item in (node, *inner):
            if isinstance(item, ast.FunctionDef | ast.ClassDef):
                yield item.name
            elif isinstance(item, ast.AnnAssign) and isinstance(item.target, ast.Name):
                yield item.target.id
            elif isinstance(item, ast.Assign):
                for target in item.targets:
                    yield from (part.id for part in ast.walk(target) if isinstance(part, ast.Name))


def test_nothing_is_there_that_only_tests_use() -> None:
    words = Counter[str]()
    for path in (*SOURCE.rglob("*.py"), *ROOT.glob("tools/*.py")):
        # What is given by name says nothing of whether it is read.
        words.update(re.findall(r"\b[A-Za-z_]\w*\b(?!=[^=])", path.read_text("utf-8")))
    known = {name for names in CALLED_BY_OTHERS.values() for name in names}
    alone = {
        name
        for path in modules().values()
        for name in facts(path).public
        if words[name] == 1 and not name.startswith("_")
    }
    assert alone == known, alone ^ known


def test_no_test_reads_what_is_private() -> None:
    """What a test must see has a public reader; only of itself may a class read more."""
    for path in ROOT.glob("tests/**/*.py"):
        read = facts(path).private
        assert not read, f"{path.relative_to(ROOT)}: {read}"


def test_the_glossary_and_the_methods_name_rooms_that_are_there() -> None:
    rooms = re.findall(
        r"\| `([\w/]+)` \|$", (ROOT / "docs" / "glossary.md").read_text("utf-8"), re.M
    )
    told = (ROOT / "docs" / "methods.md").read_text("utf-8")
    rooms += re.findall(r"`core/([\w/]+)`", told)
    assert len(rooms) > 80
    for room in rooms:
        place = SOURCE / "core" / room
        assert place.is_dir() or place.with_suffix(".py").exists(), room
    assert len(re.findall(r"^Room: ", told, re.M)) == len(re.findall(r"^## \d", told, re.M))
