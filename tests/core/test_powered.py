"""The steps of the power path rest where nothing that they are given has changed."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.powered import power_of
from lumvak.core.steps import Steps


def test_the_path_rests_until_something_of_it_changes(
    barrow: Project, catalogue: Catalogue
) -> None:
    steps = Steps()
    first = evaluate(barrow, catalogue, steps=steps)
    steps.ran.clear()
    assert power_of(barrow, first.sized, first.laid_out, steps) is first.power
    assert not steps.ran
    left = evaluate(with_values(barrow, {"rest.meter_ma": 7.0}), catalogue, steps=steps)
    assert left.power is not first.power and left.power.fuse is first.power.fuse
    assert "shelf_of" in steps.ran and "main_fuse" not in steps.ran


def test_a_short_circuit_is_full_voltage_over_what_lies_in_its_way(
    barrow: Project, catalogue: Catalogue
) -> None:
    """Ohm's law by hand: with a fuse at the battery, cells at 1 kHz and joints alone limit it."""
    made = evaluate(barrow, catalogue)
    cell, choice = made.sized.choice.cell, made.sized.choice
    assert cell.resistance_ac_ohm is not None and made.laid_out.network is not None
    ohm = cell.resistance_ac_ohm * choice.series / choice.parallel
    ohm += made.laid_out.network.joint_ohm.number
    most = made.sized.pack.full.number / ohm
    assert abs(made.power.short_a.number / most - 1.0) < 0.01
