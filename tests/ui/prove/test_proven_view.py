"""What the difference between design and proof is said to be due to."""

from lumvak.core.document.proving import Proving
from lumvak.core.proving.proof import Prepared, proof_of
from lumvak.ui.stages.prove.proven_view import due_to
from tests.proofs import reading


def test_it_names_what_moved_or_says_that_nothing_did(ready: Prepared) -> None:
    limits = {"series-joints": 20.0}
    nothing = proof_of(ready, Proving(), limits)
    assert due_to(nothing).startswith("Nothing was measured yet")
    middle = ready.expected["full-discharge.ah"].value
    same = Proving(readings=(reading("full-discharge", middle, what="ah"),))
    assert "within one standard deviation" in due_to(proof_of(ready, same, limits))
    weak = Proving(readings=(reading("full-discharge", 0.85 * middle, what="ah"),))
    said = due_to(proof_of(ready, weak, limits))
    assert "charge of the weakest group less than designed" in said
