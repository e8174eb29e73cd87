"""Fields of records, as their types describe them."""

from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.loads import DutyStep
from lumvak.core.document.need import Need
from lumvak.core.document.project import Project
from lumvak.core.fields import fields_of, title_at


def test_a_field_says_what_it_is_called_and_its_unit() -> None:
    field = fields_of(Need)["stall_current_a"]
    assert (field.title, field.unit, field.accepts.optional, field.default) == (
        "Stall current",
        "A",
        True,
        None,
    )
    assert fields_of(Cell)["id"].required
    assert title_at(Project, ("need", "duty", 3, "seconds")) == "Seconds"
    assert fields_of(DutyStep)["seconds"].unit == "s"
    assert title_at(Project, ("need", "nowhere")) == "Need"
    assert title_at(Project, ("nowhere",)) == ""
