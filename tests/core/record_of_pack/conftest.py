"""A pack as it is designed where nothing but a name was typed."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation


@pytest.fixture(scope="package")
def designed(catalogue: Catalogue) -> Evaluation:
    return evaluate(Project(name="Orchard barrow"), catalogue)
