from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.files.project_file import load_project
from lumvak.files.samples import WAYS, samples, samples_by_way


def test_every_sample_opens_under_its_name(catalogue: Catalogue) -> None:
    found = samples()
    assert len(found) >= 4
    for name, path in found:
        assert load_project(path, catalogue).name == name


def test_each_begins_in_one_way_and_every_way_has_one() -> None:
    ways = samples_by_way()
    assert list(ways) == list(WAYS) and all(ways.values())
    assert sorted(it for known in ways.values() for it in known) == sorted(samples())
    assert [name for name, _ in ways["tool"]] == ["Hedge trimmer"]
