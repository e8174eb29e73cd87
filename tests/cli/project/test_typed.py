from typing import Any, Literal

import pytest

from lumvak.cli.project.typed import field_paths, typed_value, with_typed
from lumvak.core.document.edit import ProjectError, default_value, value_at
from lumvak.core.document.project import Project
from lumvak.core.fields import is_record
from lumvak.core.spelling import spoken


@pytest.mark.parametrize(
    ("item", "path", "value"),
    [
        ("pack.parallel=8", "pack.parallel", 8),
        ("pack.series=13S", "pack.series", 13),
        ("need.current_a = 20 amps", "need.current_a", 20.0),
        ("need.runtime_h=1:30", "need.runtime_h", 1.5),
        ("pack.cell=none", "pack.cell", None),
        ("pack.forms=18650, 21700", "pack.forms", ("18650", "21700")),
        ("pack.ranking=LIGHTEST", "pack.ranking", "lightest"),
        ("name=Punt = 2", "name", "Punt = 2"),
        ("trouble.shows=no", "trouble.shows", False),
        ("trouble.without=shown:1;fuse", "trouble.without", ("shown:1", "fuse")),
    ],
)
def test_a_field_is_set_as_it_is_typed(item: str, path: str, value: Any) -> None:
    assert value_at(with_typed(Project(name="x"), [item]), path) == value


def test_a_duty_is_typed_as_in_the_window() -> None:
    duty = with_typed(Project(name="x"), ["need.duty=40A 8s, 18A 40s"]).need.duty
    assert [(it.amount, it.seconds) for it in duty] == [(40.0, 8.0), (18.0, 40.0)]
    as_json = '[{"amount": 40, "seconds": 8}, {"amount": 18, "seconds": 40}]'
    assert with_typed(Project(name="x"), [f"need.duty={as_json}"]).need.duty == duty


@pytest.mark.parametrize(
    ("item", "says"),
    [
        ("pack.paralel=8", "did you mean pack.parallel"),
        ("zzz=8", "no field “zzz”"),
        ("pack.parallel", "pack.parallel=8"),
        ("pack.parallel=many", "whole number"),
        ("pack.parallel=0", "1 or more"),
        ("need.current_a=20 V", "“V” is no unit"),
        ("pack.ranking=best", "accepted"),
        ("trouble.shows=perhaps", "true or false"),
        ("need.duty=[1,", "JSON"),
        ("record.log=soup", "JSON"),
    ],
)
def test_what_is_no_good_names_the_field(item: str, says: str) -> None:
    with pytest.raises(ProjectError) as found:
        with_typed(Project(name="x"), [item])
    assert says in spoken(found.value.said)


def test_every_field_can_be_typed_back() -> None:
    """Numbers, choices and switches of a new project read back as themselves."""
    tried = 0
    for path, field in field_paths().items():
        value = default_value(path)
        if value is None or field.accepts.plain not in (bool, int, float, Literal):
            continue
        assert not is_record(field.accepts.plain)
        text = {True: "yes", False: "no"}[value] if isinstance(value, bool) else str(value)
        if field.unit == "%":
            text = f"{100.0 * value!r} %"
        assert typed_value(path, text) == pytest.approx(value), path
        tried += 1
    assert tried > 100
