"""A found pack in one line."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import in_words, say, worded

if TYPE_CHECKING:
    from lumvak.core.as_found.audit import Audit

VIEWS = (("seen", "what was seen"), ("audit", "audit"), ("next", "look next"))
SHORT = {
    "use": "use",
    "use-within": "use within limits",
    "rebuild": "rebuild",
    "recycle": "recycle",
}


def audit_of(evaluation: Evaluation) -> Audit:
    """The audit of the pack of an evaluation, of one that begins from a need too."""
    if evaluation.as_found.audit is not None:
        return evaluation.as_found.audit
    from lumvak.core.as_found.audit import audited

    return audited(evaluation.project.as_found, evaluation.sized.parts)


def as_found_begun(evaluation: Evaluation) -> bool:
    """Whether the project begins from a pack as found."""
    return evaluation.project.as_found.begun


def as_found_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    if not as_found_begun(evaluation):
        return in_words("begins from a need")
    audit = audit_of(evaluation)
    if audit.verdict == "recycle" and audit.at_best != "recycle":
        return worded("{}, not all seen", say(audit.continuous.value, "A"))
    return f"{say(audit.continuous.value, 'A')}, {SHORT[audit.verdict]}"
