"""What is outside becomes a finding of the stage, with what it usually means."""

from lumvak.core.document.proving import Proving
from lumvak.core.proving.findings import proof_findings
from lumvak.core.proving.proof import Prepared, proof_of
from tests.proofs import reading


def test_only_what_is_outside_is_told_and_what_guards_stops(ready: Prepared) -> None:
    load = ready.pack.load_a
    readings = (
        reading("drops", 20.0 * load * ready.pack.parts_ohm[3], "connector", amps=load),
        reading("drops", load * ready.pack.parts_ohm[2], "bms", amps=load),
        reading("insulation", 12.0, "case"),
    )
    found = list(proof_findings(proof_of(ready, Proving(readings=readings), {"leads": 40.0})))
    assert {it.code: it.severity for it in found} == {
        "proof-drops.connector_mohm": "warn",
        "proof-insulation.case_v": "stop",
    }
    assert all(it.stage == "prove" for it in found)
    assert not list(proof_findings(proof_of(ready, Proving(), {"leads": 40.0})))
