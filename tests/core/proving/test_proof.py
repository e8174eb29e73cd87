"""Tests judged, and how the rating stands."""

from lumvak.bench.procedures import PROCEDURES
from lumvak.core.document.proving import Proving
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.proof import TESTS, Prepared, proof_of
from tests.proofs import AtDirectBench, reading

LIMITS = {"series-joints": 20.0, "cells": 60.0}


def test_before_anything_is_read_all_is_assumed(ready: Prepared) -> None:
    proof = proof_of(ready, Proving(), LIMITS)
    assert proof.standing == "assumed" and {it.test for it in proof.tests} == set(TESTS) - {"surge"}
    assert {it.verdict for it in proof.tests} == {"not judged"}
    assert proof.hours == proof.hours_before and proof.continuous == proof.continuous_before


def test_one_reading_is_a_part_and_one_outside_is_named(ready: Prepared) -> None:
    warm = proof_of(
        ready,
        Proving(
            readings=(
                reading("staircase", 190.0, "strip", "celsius", at_s=1.0),
                reading("staircase", 40.0, "cells", "celsius", at_s=1.0),
            )
        ),
        LIMITS,
    )
    judged = warm.of("staircase")
    assert warm.standing == "partly measured" and judged.verdict == "outside"
    assert [it.observable.key for it in judged.outside] == ["staircase.strip_k"]
    assert warm.continuous.value < 0.8 * warm.continuous_before.value


def test_the_whole_plan_proves_a_pack(ready: Prepared, bench_pack: BenchPack) -> None:
    bench = AtDirectBench(bench_pack, seed=4)
    assert [run.stopped for run in bench.run(*TESTS)] == [""] * len(PROCEDURES)
    proof = proof_of(ready, bench.proving, LIMITS)
    assert proof.standing == "proven"
    assert {test.test for test in proof.tests if test.attempt == 1} == set(PROCEDURES)
    wide = proof.hours_before.high - proof.hours_before.low
    assert proof.hours.high - proof.hours.low < wide / 3.0
