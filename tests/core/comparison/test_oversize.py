"""A pack far over what run time and current ask for is told with what would shrink it."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.comparison.oversize import oversize_of
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.spelling import spoken

HOT = {"need.kind": "tool", "need.rated_voltage_v": 14.4, "need.current_a": 28.0,
       "need.endurance_basis": "capacity", "need.capacity_ah": 2.0, "need.ambient_c": 45.0,
       "pack.cell": "ostrel-18-25p", "pack.series": 4}  # fmt: skip


def test_the_need_that_makes_it_is_named_and_each_change_shrinks_it(catalogue: Catalogue) -> None:
    evaluation = evaluate(with_values(Project(), HOT), catalogue)
    found = oversize_of(
        evaluation.sized.sized_pack, evaluation.sized.options, evaluation.sized.pack
    )
    assert found is not None
    assert found.binding == "temperature" == evaluation.sized.pack.binding
    plain = max(evaluation.sized.pack.needs[name].number for name in ("capacity", "continuous"))
    assert found.plain - 1 < plain <= found.plain
    assert found.parallel > 1.5 * found.plain
    told = next(item for item in evaluation.findings if item.code == "oversized")
    assert f"sets {found.parallel} in parallel" in spoken(told.text)
    fewer = next(change for change in found.changes if "lower resistance" in spoken(change))
    assert spoken(fewer) in spoken(told.do)
    cells = int(spoken(fewer).partition("(")[2].partition(" ")[0])
    assert cells < evaluation.sized.choice.series * evaluation.sized.choice.parallel
    # Nothing is told that would not shrink it.
    airy = evaluate(with_values(Project(), {**HOT, "pack.enclosure": "moving"}), catalogue)
    small = airy.sized.choice.parallel < 0.8 * found.parallel
    assert any("moving air" in spoken(change) for change in found.changes) == small


def test_a_pack_that_its_run_time_asks_for_is_not_told(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(with_values(barrow, {"pack.temperature_limit_c": 80.0}), catalogue)
    assert (
        oversize_of(evaluation.sized.sized_pack, evaluation.sized.options, evaluation.sized.pack)
        is None
    )
    assert "oversized" not in {item.code for item in evaluation.findings}
