from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.files.project_file import load_project
from lumvak.files.samples import samples


def test_every_sample_opens_under_its_name(catalogue: Catalogue) -> None:
    found = samples()
    assert len(found) >= 4
    for name, path in found:
        assert load_project(path, catalogue).name == name
