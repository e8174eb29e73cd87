"""The joints as links of the chain, against the pieces they are made of."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.joints.links import strips_hold

DEMOS = ["barrow", "trimmer", "kayak", "cycle"]


@pytest.mark.parametrize("demo", DEMOS)
@pytest.mark.parametrize("role", ["series", "group"])
def test_strips_hold_for_ever_what_the_first_piece_at_its_limit_allows(
    demo: str, role: str, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    evaluation = evaluate(demos[demo], catalogue)
    joined_pack = evaluation.laid_out.joined_pack
    held = strips_hold(joined_pack.role(role), joined_pack)
    assert joined_pack.carried is not None
    limits = joined_pack.carried.pack_limit_a[joined_pack.role(role)]
    finite = limits[np.isfinite(limits)]
    if held is None:
        assert not len(finite)
        return
    assert np.all(np.diff(held) <= 1e-9 * held[0])
    assert held[-1] == pytest.approx(finite.min(), rel=0.01)
    link = next((item for item in evaluation.path.links if item.key == f"{role}-joints"), None)
    assert link is not None
    assert link.limit_a(1e4) == pytest.approx(finite.min(), rel=0.01)


def test_fusible_links_are_a_link_only_where_there_are_any(
    barrow: Project, catalogue: Catalogue
) -> None:
    def keys(**changes: object) -> set[str]:
        made = with_values(barrow, {f"joints.{name}": value for name, value in changes.items()})
        return {item.key for item in evaluate(made, catalogue).path.links}

    assert "link" not in keys(link_a=None, link_mohm=None)
    assert "link" in keys(link_a=8.0, link_mohm=3.0)


def test_one_cell_in_series_has_no_series_joint(barrow: Project, catalogue: Catalogue) -> None:
    single = with_values(barrow, {"pack.series": 1, "pack.parallel": 4})
    evaluation = evaluate(single, catalogue)
    assert "series-joints" not in {item.key for item in evaluation.path.links}
