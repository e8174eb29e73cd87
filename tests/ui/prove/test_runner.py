"""A plan in a thread: what is read waits to be taken, what hands must do is asked for."""

import time

from lumvak.core.proving.bench_pack import BenchPack
from lumvak.ui.stages.prove.runner import BenchSource, Runner


def until(done, seconds: float = 20.0) -> bool:  # type: ignore[no-untyped-def]
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if done():
            return True
        time.sleep(0.02)
    return False


def test_readings_wait_until_they_are_taken(bench_pack: BenchPack) -> None:
    runner = Runner(bench_pack, BenchSource({}, 3), ("groups", "total"), ())
    runner.start()
    assert until(lambda: runner.ended)
    assert runner.waiting and len(runner.take()) == 2 * bench_pack.series + 1
    assert not runner.waiting and runner.take() == []
    assert [run.test for run in runner.runs] == ["groups", "total"] and not runner.problem


def test_what_hands_must_do_is_asked_and_a_stop_ends_it(bench_pack: BenchPack) -> None:
    runner = Runner(bench_pack, BenchSource({}, 3), ("groups",), ())
    answers: list[str] = []
    from threading import Thread

    asking = Thread(target=lambda: answers.append(runner.ask("Does it charge?")))
    asking.start()
    assert until(lambda: bool(runner.asks))
    runner.answer("no")
    asking.join(5)
    assert answers == ["no"] and runner.asks == ""


def test_a_fault_that_nobody_knows_is_the_problem(bench_pack: BenchPack) -> None:
    runner = Runner(bench_pack, BenchSource({}, 3, ("gremlins",)), ("groups",), ())
    runner.start()
    assert until(lambda: runner.ended) and "gremlins" in runner.problem
