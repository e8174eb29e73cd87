import os
import shutil
from pathlib import Path

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.files.kept.recovery import RecoveryCopy, left_over, sweep
from lumvak.files.kept.window_settings import Settings, load_settings, save_settings, with_recent


def test_a_running_windows_copy_is_not_offered_and_a_crashed_ones_is(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    copy = RecoveryCopy(tmp_path)
    copy.write(barrow, Path("/somewhere/barrow.lumvak.json"))
    assert left_over(tmp_path, catalogue) == ([], [])
    copy.close()
    ((found,), _) = left_over(tmp_path, catalogue)
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
    assert left_over(tmp_path, catalogue) == ([], [])
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
    names = {item.project.name for item in left_over(tmp_path, catalogue)[0]}
    assert names == {barrow.name, trimmer.name}


def test_bad_copies_are_set_aside_and_told(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    bad = {
        "copy-1-1.json": '{"format": "lumvak-recovery", "version": 1, "project": {"name": 7}}',
        "copy-2-1.json": "{",
        "copy-3-1.json": "[" * 100_000,
        "copy-4-1.json": '{"format": "lumvak-recovery", "version": ' + "9" * 5000 + "}",
        "copy-5-1.json": "[1]",
    }
    for name, text in bad.items():
        (tmp_path / name).write_text(text, "utf-8")
    (tmp_path / "copy-6-1.json").symlink_to(tmp_path / "nowhere")
    os.mkfifo(tmp_path / "copy-7-1.json")
    newer = tmp_path / "copy-8-1.json"
    newer.write_text('{"format": "lumvak-recovery", "version": 2}', "utf-8")
    good = RecoveryCopy(tmp_path)
    good.write(barrow, None)
    good.close()
    found, problems = left_over(tmp_path, catalogue)
    assert [item.project for item in found] == [barrow]
    assert len(problems) == 8
    assert all(len(text) < 600 for text in problems)
    set_aside = {path.name for path in (tmp_path / "broken").iterdir()}
    assert set_aside == {*bad, "copy-6-1.json", "copy-7-1.json"}
    assert newer.exists()
    # The next start is not told again of what was set aside.
    assert len(left_over(tmp_path, catalogue)[1]) == 1
    assert left_over(tmp_path / "none", catalogue) == ([], [])


def test_what_is_thrown_away_lies_in_the_bin_for_a_week(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    copy = RecoveryCopy(tmp_path)
    copy.write(barrow, None)
    copy.throw_away(barrow, None)
    copy.close()
    ((found,), _) = left_over(tmp_path, catalogue)
    found.throw_away()
    assert left_over(tmp_path, catalogue) == ([], [])
    thrown = sorted((tmp_path / "bin").iterdir())
    assert len(thrown) == 2
    now = thrown[0].stat().st_mtime
    sweep(tmp_path, now + 6.9 * 86400.0)
    assert sorted((tmp_path / "bin").iterdir()) == thrown
    shutil.copy(thrown[0], tmp_path / "copy-9-1.json")
    assert left_over(tmp_path, catalogue)[0][0].project == barrow
    sweep(tmp_path, now + 7.1 * 86400.0)
    assert list((tmp_path / "bin").iterdir()) == []


def test_litter_is_swept_and_what_lives_is_left(barrow: Project, tmp_path: Path) -> None:
    living = RecoveryCopy(tmp_path)
    living.write(barrow, None)
    (tmp_path / "copy-1-1.lock").write_text("", "utf-8")
    half = tmp_path / ".copy-1-1.json.abc"
    half.write_text("", "utf-8")
    sweep(tmp_path, half.stat().st_mtime + 10.0)
    assert half.exists()
    sweep(tmp_path, half.stat().st_mtime + 4000.0)
    assert {path.name for path in tmp_path.iterdir()} == {
        living.path.name,
        living.path.with_suffix(".lock").name,
    }
    living.drop()
    living.close()


def test_a_path_that_is_no_text_is_kept_and_an_older_copy_says_so(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    odd = tmp_path / os.fsdecode(b"pack-\xff.lumvak.json")
    copy = RecoveryCopy(tmp_path / "recovery")
    copy.write(barrow, odd)
    copy.close()
    ((found,), problems) = left_over(tmp_path / "recovery", catalogue)
    assert problems == []
    assert found.saved_as == odd
    assert not found.older
    odd.write_text("saved since", "utf-8")
    os.utime(odd, (found.time + 60.0, found.time + 60.0))
    assert found.older


def test_settings_come_back_and_bad_ones_are_the_defaults(tmp_path: Path) -> None:
    path = tmp_path / "deep" / "settings.json"
    assert load_settings(path)[0] == Settings()
    settings = with_recent(Settings(sheet="dark", text_percent=125), tmp_path / "a.lumvak.json")
    save_settings(settings, path)
    assert load_settings(path)[0] == settings
    path.write_text('{"sheet": "pink"}', "utf-8")
    assert load_settings(path)[0] == Settings()
    assert load_settings(path)[1].endswith(f"in {path}: begun anew.")
    path.write_text("{", "utf-8")
    assert load_settings(path)[0] == Settings()
    odd = with_recent(settings, Path("/tmp/\udcff.lumvak.json"))
    assert odd == settings, "a path that is no text cannot be kept"


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
