"""What no document takes: numbers next to nothing, and texts that steer."""

import pytest

from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.record import FLOOR


@pytest.mark.parametrize("value", [1e-320, 5e-324, 0.9 * FLOOR, -1e-9])
@pytest.mark.parametrize("path", ["need.current_a", "leads.outer_mm", "need.ambient_c"])
def test_a_number_next_to_nothing_is_refused(path: str, value: float) -> None:
    if value < 0.0 and path != "need.ambient_c":
        return
    with pytest.raises(ProjectError, match="nearer to 0 than 1e-07") as caught:
        with_values(Project(), {path: value})
    assert caught.value.path == path


def test_zero_and_the_floor_itself_are_taken() -> None:
    project = with_values(Project(), {"need.ambient_c": 0.0, "need.current_a": FLOOR})
    assert (project.need.ambient_c, project.need.current_a) == (0.0, FLOOR)


@pytest.mark.parametrize("sign", ["\n", "\x00", "\x1b", "\x85", "\u2028", "\u202e", "\u2066"])
def test_a_name_has_no_control_characters_and_a_note_has_lines(sign: str) -> None:
    with pytest.raises(
        ProjectError, match=rf"Name \(name\): a control character \(U\+{ord(sign):04X}\)"
    ):
        with_values(Project(), {"name": f"pack {sign} .include /etc/passwd"})
    noted = {"note": f"two\nlines\tand {sign}"}
    if sign == "\n":
        assert with_values(Project(), noted).note == noted["note"]
    else:
        with pytest.raises(ProjectError, match=r"Note \(note\): a control character"):
            with_values(Project(), noted)


def test_letters_and_signs_of_all_kinds_are_taken() -> None:
    name = "Obstkarren № 7 – πρώτο 電池 👩‍🌾"
    assert with_values(Project(), {"name": name}).name == name
