"""Each failure of a fuse has its own code, and goes when the right thing changes."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from tests.core.power.failures import Failure, each, told_and_cured

FAILURES: tuple[Failure, ...] = (
    ("fuse-load", "barrow", {"power.fuse": "flint-20"}, {"power.fuse": None}),
    ("fuse-melts", "trimmer", {"power.fuse": "flint-16"}, {"power.fuse": None}),
    ("fuse-never", "trimmer", {"power.fuse": "cinder-200", "leads.wire": "withy-16"},
     {"power.fuse": None, "leads.wire": None}),
    ("fuse-breaking", "kayak", {"power.fuse": "ember-h-60"}, {"power.fuse": "flint-40"}),
    ("fuse-voltage", "barrow", {"power.fuse": "ember-40"}, {"power.fuse": None}),
    ("fuse-wire", "barrow", {"power.fuse": "flint-63", "leads.wire": "withy-12"},
     {"leads.wire": None}),
    ("no-fuse", "barrow", {"power.fuse": "none"}, {"power.fuse": None}),
    ("no-charge-fuse", "barrow", {"power.charge_fuse": "none"}, {"power.charge_fuse": None}),
    ("fuse-late", "barrow", {"power.fuse_place": "output"}, {"power.fuse_place": "cells"}),
)  # fmt: skip


@each(FAILURES)
def test_a_failure_is_told_and_goes_when_it_is_cured(
    failure: Failure, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    told_and_cured(failure, demos, catalogue)
