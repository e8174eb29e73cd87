"""What was proven, as figures that explain themselves."""

from lumvak.core.document.proving import Proving
from lumvak.core.proving.figures import PARAMETER_RULES, proof_figures
from lumvak.core.proving.proof import Prepared, proof_of
from lumvak.core.spelling import spoken
from tests.proofs import reading

LIMITS = {"series-joints": 20.0, "cells": 60.0}


def test_what_was_not_read_is_assumed_and_what_was_is_measured(ready: Prepared) -> None:
    nothing = {it.key: it for it in proof_figures(proof_of(ready, Proving(), LIMITS))}
    assert all(nothing[rule.key].origin == "assumed" for rule in PARAMETER_RULES.values())
    assert nothing["proven.continuous_a"].assumed and nothing["proven.run_time_h"].assumed
    read = Proving(readings=(reading("full-discharge", 31.0, what="ah"),))
    proof = proof_of(ready, read, LIMITS)
    some = {it.key: it for it in proof_figures(proof)}
    assert some["proven.capacity"].origin == "measured"
    assert some["proven.strip"].origin == "assumed"
    hours = some["proven.run_time_h"]
    assert hours.number == proof.hours.value and "nine in ten" in spoken(hours.rule)
    assert {it.key for it in hours.inputs} >= {"proven.capacity", "proven.path"}
