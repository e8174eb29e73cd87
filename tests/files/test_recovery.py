from pathlib import Path

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.files.recovery import RecoveryCopy, left_over
from lumvak.files.window_settings import Settings, load_settings, save_settings, with_recent


def test_a_running_windows_copy_is_not_offered_and_a_crashed_ones_is(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    copy = RecoveryCopy(tmp_path)
    copy.write(barrow, Path("/somewhere/barrow.lumvak.json"))
    assert list(left_over(tmp_path, catalogue)) == []
    copy.close()
    (found,) = left_over(tmp_path, catalogue)
    assert found.project == barrow
    assert found.saved_as == Path("/somewhere/barrow.lumvak.json")
    found.drop()
    assert list(tmp_path.iterdir()) == []


def test_saved_work_leaves_nothing_behind(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    copy = RecoveryCopy(tmp_path)
    copy.write(barrow, None)
    copy.drop()
    copy.close()
    assert list(left_over(tmp_path, catalogue)) == []
    assert list(tmp_path.iterdir()) == []


def test_two_windows_keep_two_copies(
    barrow: Project, trimmer: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    one, two = RecoveryCopy(tmp_path), RecoveryCopy(tmp_path)
    one.write(barrow, None)
    two.write(trimmer, None)
    assert one.path != two.path
    one.close()
    two.close()
    names = {item.project.name for item in left_over(tmp_path, catalogue)}
    assert names == {barrow.name, trimmer.name}


def test_a_broken_copy_is_passed_over_and_kept(catalogue: Catalogue, tmp_path: Path) -> None:
    path = tmp_path / "copy-1-1.json"
    path.write_text('{"format": "lumvak-recovery", "version": 1, "project": {}}', "utf-8")
    (tmp_path / "copy-2-1.json").write_text("{", "utf-8")
    assert list(left_over(tmp_path, catalogue)) == []
    assert path.exists()
    assert list(left_over(tmp_path / "none", catalogue)) == []


def test_settings_come_back_and_bad_ones_are_the_defaults(tmp_path: Path) -> None:
    path = tmp_path / "deep" / "settings.json"
    assert load_settings(path) == Settings()
    settings = with_recent(Settings(sheet="dark", text_percent=125), tmp_path / "a.lumvak.json")
    save_settings(settings, path)
    assert load_settings(path) == settings
    path.write_text('{"sheet": "pink"}', "utf-8")
    assert load_settings(path) == Settings()
    path.write_text("{", "utf-8")
    assert load_settings(path) == Settings()


def test_recent_projects_are_few_and_each_once(tmp_path: Path) -> None:
    settings = Settings()
    for place in range(12):
        settings = with_recent(settings, tmp_path / f"{place}.json")
    settings = with_recent(settings, tmp_path / "9.json")
    assert len(settings.recent) == 8
    assert settings.recent[0].endswith("9.json")
    assert len(set(settings.recent)) == 8


def test_settings_that_cannot_be_kept_lose_no_work(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("", "utf-8")
    save_settings(Settings(), tmp_path / "file" / "settings.json")
    assert (tmp_path / "file").read_text("utf-8") == ""
