"""Shared by all tests: a home of their own, the sample catalogue, the demo projects."""

import gc
import os
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import settings

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.proved import bench_pack_of
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.proof import Prepared, prepared
from lumvak.core.spelling import Spelling
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.project_file import load_project
from lumvak.ui.speech import SPEECH
from tests.length import so_many

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Numbers are spelled as the desktop has them: here as nobody's.
os.environ["LC_ALL"] = "C.UTF-8"
# Slow machines are no failure, and what runs unattended runs the same each time.
settings.register_profile(
    "lumvak", deadline=None, derandomize="CI" in os.environ, max_examples=so_many(30, 100)
)
settings.load_profile("lumvak")
# What is loaded stays: it need not be looked through for what may go.
gc.collect()
gc.freeze()
gc.set_threshold(20_000, 20, 20)
HOMES = ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME")
DEMOS = Path(__file__).parents[1] / "src" / "lumvak" / "data" / "demos"
BARROW = DEMOS / "orchard-barrow.lumvak.json"
TRIMMER = DEMOS / "hedge-trimmer.lumvak.json"


@pytest.fixture(autouse=True)
def own_home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    home = tmp_path / "home"
    for name in HOMES:
        monkeypatch.setenv(name, str(home / name))
    return home


@pytest.fixture(autouse=True)
def plain_spelling() -> Iterator[None]:
    yield
    SPEECH.spelling = Spelling()


@pytest.fixture(scope="session")
def catalogue(tmp_path_factory: pytest.TempPathFactory) -> Catalogue:
    return load_catalogue(own=tmp_path_factory.mktemp("none"))[0]


@pytest.fixture(scope="session")
def barrow(catalogue: Catalogue) -> Project:
    return load_project(BARROW, catalogue)


@pytest.fixture(scope="session")
def even_barrow(barrow: Project) -> Project:
    """The barrow with groups that are alike, and no charger but the one that the need gives."""
    return with_values(
        barrow, {"charging.groups": (), "charging.chargers": (), "charging.charger": None}
    )


@pytest.fixture(scope="session")
def trimmer(catalogue: Catalogue) -> Project:
    return load_project(TRIMMER, catalogue)


@pytest.fixture(scope="session")
def demos(catalogue: Catalogue) -> dict[str, Project]:
    """The demo projects by a short name."""
    names = {
        "barrow": "orchard-barrow",
        "trimmer": "hedge-trimmer",
        "kayak": "kayak-thruster",
        "cycle": "hand-cycle-drive",
    }
    return {
        short: load_project(DEMOS / f"{name}.lumvak.json", catalogue)
        for short, name in names.items()
    }


@pytest.fixture(scope="session")
def evaluation(barrow: Project, catalogue: Catalogue) -> Evaluation:
    return evaluate(barrow, catalogue)


@pytest.fixture(scope="session")
def plain() -> Project:
    """A current load in a known window, with nothing picked."""
    return with_values(
        Project(),
        {
            "need.max_voltage_v": 43.0,
            "need.stop_voltage_v": 30.0,
            "need.current_a": 18.0,
            "need.peak_current_a": 40.0,
            "need.peak_duration_s": 8.0,
        },
    )


@pytest.fixture(scope="session")
def bench_pack(barrow: Project, catalogue: Catalogue) -> BenchPack:
    return bench_pack_of(evaluate(barrow, catalogue))


@pytest.fixture(scope="session")
def ready(bench_pack: BenchPack) -> Prepared:
    return prepared(bench_pack)
