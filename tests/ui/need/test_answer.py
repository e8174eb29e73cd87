"""What the build line says of the need."""

from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.spelling import Spelling
from lumvak.ui.speech import SPEECH
from lumvak.ui.stages.need.answer import need_answer


def test_volts_load_and_peak_are_said_as_they_are_spelled(
    plain: Project, catalogue: Catalogue
) -> None:
    made = evaluate(with_values(plain, {"need.rated_voltage_v": 36.0}), catalogue)
    assert need_answer(made) == "36 V, 18 A, 40 A for 8 s"
    without = evaluate(with_values(plain, {"need.peak_current_a": None}), catalogue)
    assert need_answer(without).count(",") == 1
    SPEECH.spelling = replace(Spelling(), comma=True)
    half = evaluate(with_values(plain, {"need.current_a": 18.5}), catalogue)
    assert "18,5 A" in need_answer(half)
