"""What the design goes on with, part by part."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.specification.in_force import in_force_said
from lumvak.core.specification.window import PART_KEYS
from lumvak.core.spelling import spoken


def test_each_part_is_named_and_one_as_specified_says_so(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(barrow, catalogue)
    names = {key: spoken(in_force_said(key, evaluation).name) for key in PART_KEYS}
    assert names["cell"] == "Ostrel 21-48" and names["leads"] == "AWG 12"
    assert names["bms"] == "Wicket 14-30" and names["switch"] == "none"
    open_ = evaluate(
        with_values(
            barrow,
            {
                "protection.board": "as-specified",
                "power.fuse": "as-specified",
                "power.connector": "as-specified",
                "joints.series.part": "as-specified",
            },
        ),
        catalogue,
    )
    for key in ("bms", "fuse", "connector"):
        force = in_force_said(key, open_)
        assert force.specified and spoken(force.name) == "as specified"
    series = in_force_said("series", open_)
    assert series.specified and "copper 0.2 mm" in spoken(series.name)
    codes = {item.code: item for item in open_.findings}
    for part in ("bms", "series-joint"):
        assert "still to be bought" in spoken(codes[f"{part}-as-specified"].text)
