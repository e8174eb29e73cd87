"""The balance leads in one line."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.ui.stages.taps.answer import taps_answer


def test_leads_soldered_read_and_judged(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    count = evaluation.sized.choice.series + 1
    assert taps_answer(evaluation) == f"{count} leads"

    def answer(**changes: object) -> str:
        fresh = {f"balance_leads.{name}": value for name, value in changes.items()}
        return taps_answer(evaluate(with_values(barrow, fresh), catalogue))

    assert answer(soldered=(0, 1, 99)) == f"2 of {count} soldered"
    level = evaluation.balance.check.level_v.tolist()
    totals = [{"lead": lead, "volts": round(volts, 2)} for lead, volts in enumerate(level)]
    assert answer(totals=tuple(totals[:3])) == f"3 of {count} read"
    assert answer(totals=tuple(totals)) == "lead 0 not proven"
    proof = {"start": "lead 0", "end": "lead 1", "volts": totals[1]["volts"]}
    assert answer(totals=tuple(totals), more=(proof,)) == "safe to plug in"
    totals[1]["volts"] = None
    assert answer(totals=tuple(totals)) == "do not plug in"
