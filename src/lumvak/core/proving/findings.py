"""What the tests found that is not as it should be."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.figures.finding import Finding, Severity
from lumvak.core.proving.proof import JudgedFigure, PackProof
from lumvak.core.said import phrase, say

# Tests of what guards the pack: what is outside there comes before all use.
GUARDS = ("insulation", "over-voltage", "under-voltage", "over-current", "charger-stop")


def proof_findings(proof: PackProof) -> Iterator[Finding]:
    """One finding for each figure that is outside what 99 of 100 sound packs show."""
    for test in proof.tests:
        severity: Severity = "stop" if test.test in GUARDS else "warn"
        for figure in test.outside:
            yield _outside(figure, severity)


def _outside(figure: JudgedFigure, severity: Severity) -> Finding:
    seen, expected = figure.observable, figure.expected
    measured = expected.value if figure.measured is None else figure.measured.value
    return Finding(
        f"proof-{seen.key}",
        severity,
        phrase(
            "{}: {}, nine in ten sound packs from {} to {}",
            seen.label,
            *(say(it, seen.unit) for it in (measured, expected.low, expected.high)),
        ),
        phrase("Usually: {}.", seen.means),
        phrase("What would tell: {}.", seen.next),
        "prove",
    )
