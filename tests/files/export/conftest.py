"""The orchard barrow, worked out once."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation


@pytest.fixture(scope="package")
def worked_out(barrow: Project, catalogue: Catalogue) -> Evaluation:
    return evaluate(barrow, catalogue)
