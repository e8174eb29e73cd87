"""Projects of a folder in the window: found, sorted, opened; broken files are told."""

from pathlib import Path

from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.ui.laid_over.shelf_page import ShelfPage
from lumvak.ui.shell.window import Window
from tests.ui.laid_over.test_practise_page import asked


def shelf_of(window: Window, folder: Path) -> ShelfPage:
    folder.mkdir()
    for name, parallel in (("Kayak thruster", 9), ("Hedge trimmer", 2), ("Ash cart", 4)):
        window.session.start(with_values(Project(name=name), {"pack.parallel": parallel}), None)
        window.session.save(folder / f"{name.lower().replace(' ', '-')}.lumvak.json")
    (folder / "broken.lumvak.json").write_text("{")
    asked(window, "helf").trigger()
    page = window.findChild(ShelfPage)
    assert page is not None and page.isVisible()
    return page


def names(page: ShelfPage) -> list[str]:
    return [row.cells[0].partition(":")[0] for row in page.table.rows_model.rows]


def test_they_are_listed_found_and_sorted(window: Window, tmp_path: Path) -> None:
    page = shelf_of(window, tmp_path / "packs")
    broken = "broken.lumvak.json"
    assert names(page) == ["Ash cart", "Hedge trimmer", "Kayak thruster", broken]
    assert "3 projects, 1 files that cannot be read" in page.where.text()
    row = page.table.rows_model.rows[0]
    assert row.cells[1].endswith("S4P") and "designed" in row.cells[3]
    page.sort.picked.emit("capacity")
    assert names(page) == ["Kayak thruster", "Ash cart", "Hedge trimmer", broken]
    page.search.setText("kay")
    assert names(page) == ["Kayak thruster"]
    page.search.setText("nothing like it")
    assert names(page) == []


def test_one_that_is_picked_is_opened_and_a_broken_one_is_not(
    window: Window, tmp_path: Path
) -> None:
    page = shelf_of(window, tmp_path / "packs")
    page.table.picked.emit(str(tmp_path / "packs" / "broken.lumvak.json"))
    assert not page.open.isEnabled()
    page.table.picked.emit(str(tmp_path / "packs" / "hedge-trimmer.lumvak.json"))
    page.open.click()
    assert window.session.project.name == "Hedge trimmer" and not page.isVisible()


def test_a_home_is_not_read_through_unasked(window: Window) -> None:
    window.session.start(Project(), None)
    asked(window, "helf").trigger()
    page = window.findChild(ShelfPage)
    assert page is not None and page.folder is None and "No folder yet" in page.where.text()
