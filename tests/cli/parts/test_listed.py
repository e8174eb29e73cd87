"""The catalogue on the command line."""

import csv
import io
import json

import pytest

from lumvak.cli.main import main
from lumvak.cli.parts.listed import SHOWN
from lumvak.core.catalogue.catalogue import PART_KINDS, Catalogue
from lumvak.core.fields import fields_of


def test_every_kind_is_listed_whole(
    catalogue: Catalogue, capsys: pytest.CaptureFixture[str]
) -> None:
    assert set(SHOWN) == set(PART_KINDS)
    for kind in PART_KINDS:
        assert main(["parts", kind, "--csv"]) == 0
        rows = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
        assert [row["id"] for row in rows] == list(getattr(catalogue, kind))
        first = next(iter(getattr(catalogue, kind).values()))
        assert set(SHOWN[kind]) <= set(fields_of(type(first)))


def test_conditions_are_kept_with_units(
    catalogue: Catalogue, capsys: pytest.CaptureFixture[str]
) -> None:
    where = ("--where", "capacity_typical_ah>=4000 mAh", "--where", "chemistry!=lfp")
    assert main(["parts", "cells", *where, "--sort", "price", "--json"]) == 0
    rows = json.loads(capsys.readouterr().out)["parts"]
    wanted = {
        cell.id
        for cell in catalogue.cells.values()
        if cell.capacity_typical_ah >= 4.0 and cell.chemistry != "lfp"
    }
    assert {row["id"] for row in rows} == wanted
    assert [row["price"] for row in rows] == sorted(row["price"] for row in rows)
    assert main(["parts", "conductors", "--find", "COPPER"]) == 0
    assert "nickel-0.1x5" not in capsys.readouterr().out
    assert main(["parts", "cells", "--where", "mass_g>9000"]) == 1


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("cells", "--where", "weight>5"), "no field “weight”"),
        (("cells", "--where", "mass"), "such as price<=5"),
        (("cells", "--where", "mass_g>5 V"), "“V” is no unit"),
        (("cells", "--sort", "prise"), "did you mean price"),
    ],
)
def test_what_is_no_condition_says_why(
    capsys: pytest.CaptureFixture[str], words: tuple[str, ...], says: str
) -> None:
    with pytest.raises(SystemExit):
        main(["parts", *words])
    assert says in capsys.readouterr().err


def test_one_part_is_shown_whole(capsys: pytest.CaptureFixture[str]) -> None:
    for words in (("cells", "Ostrel 21-48"), ("ostrel-21-48",)):
        assert main(["parts", *words, "--json"]) == 0
        assert json.loads(capsys.readouterr().out)["capacity_typical_ah"] == 4.8
    assert main(["parts", "ostrel-21-48"]) == 0
    assert "4.8 Ah" in capsys.readouterr().out
    assert main(["parts", "cels"]) == 2
    assert "did you mean cells" in capsys.readouterr().err
    assert main(["parts"]) == 0
    assert "cells" in capsys.readouterr().out
