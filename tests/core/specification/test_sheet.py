"""The shopping sheet in the words of a shop."""

from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.fuse import fuse_spec, main_fuse_asked
from lumvak.core.specification.sheet import (
    choice_said,
    quantity_said,
    shopping,
    two_lines,
    window_said,
)
from lumvak.core.specification.topic import specification_in_hand
from lumvak.core.specification.window import Maker, PartSpec, by
from lumvak.core.spelling import spoken

BMS = Maker("bms")


def said(**sides: float) -> str:
    made = {name: by(value, "x") for name, value in sides.items()}
    return spoken(window_said(BMS.window("continuous_a", "Carries", "A", **made)))  # type: ignore[arg-type]


def test_windows_are_said_as_one_says_them() -> None:
    assert said(least=20.0) == "20 A or more"
    assert said(least=20.0, wanted=24.0) == "20 A or more, 24 A wanted"
    assert said(most=20.0) == "up to 20 A"
    assert said(least=20.0, most=30.0) == "20 A to 30 A"
    assert said(least=20.0, most=20.0) == "20 A"
    assert said() == "any"
    kind = BMS.window("kind", "Does", one_of=("full", "protection"))
    assert spoken(choice_said(kind)) == "protects and balances or protects only"


def test_fuses_are_told_by_ratings_that_are_sold(evaluation: Evaluation) -> None:
    spec = fuse_spec(main_fuse_asked(evaluation))
    words = {it.case: spoken(window_said(it)) for it in spec.windows if it.case}
    assert words["bolt"] == "30 A, 32 A or 35 A"
    assert words["cartridge"] == "32 A"
    assert words["blade"].startswith("none is sold from ")


def test_spares_and_metres_are_rounded_up() -> None:
    assert spoken(quantity_said(PartSpec("cell", (), 98.0))) == "98 and 3 in reserve"
    assert spoken(quantity_said(PartSpec("fuse", ()))) == "1 and 1 in reserve"
    assert spoken(quantity_said(PartSpec("leads", (), 1.2, "m"))) == "1.4 m"


def test_two_lines_tell_a_friend(evaluation: Evaluation) -> None:
    specification = specification_in_hand(evaluation)
    lines = spoken(two_lines(evaluation, specification))
    for part in (
        "14S7P",
        "BMS 14S for 22 A or more",
        "holds 46 A for 6 s",
        "fuse 35 A",
        "AWG 12",
        "nickel 0.2 × 15 mm",
    ):
        assert part in lines
    parts = [line.part.key for line in shopping(specification)]
    assert "switch" not in parts and {"cell", "bms", "fuse", "charger"} <= set(parts)
