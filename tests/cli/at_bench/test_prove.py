"""``lumvak prove``: tests at the simulated bench, over real sockets, judged."""

import json

import pytest

from lumvak.cli.main import main
from tests.conftest import BARROW


def proved(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, str]:
    status = main(["prove", str(BARROW), *words])
    return status, capsys.readouterr().out


def test_json_of_the_whole_plan(capsys: pytest.CaptureFixture[str]) -> None:
    status, out = proved(capsys, "--json", "--seed", "4")
    told = json.loads(out)
    tests = {it["name"]: it for it in told["tests"]}
    assert len(tests) == 13 and {"expected", "band", "measured", "unit", "verdict"} <= set(
        tests["staircase"]
    )
    assert status == int(any(it["verdict"] == "outside" for it in told["tests"]))
    for item in told["corrected"].values():
        assert abs(item["after"] - item["truth"]) < 4.0 * item["sigma_after"]
        assert item["sigma_after"] <= item["sigma_before"]
    low, high = told["proven"]["run_time_h"]["band"]
    assert low < told["proven"]["run_time_h"]["value"] < high and told["standing"] == "proven"


def test_a_fault_is_found_and_the_status_says_so(capsys: pytest.CaptureFixture[str]) -> None:
    status, out = proved(capsys, "--tests", "drops,groups", "--fault", "worn-connector")
    assert status == 1 and "drops.connector_mohm" in out and "outside" in out
    assert "partly measured" in out


def test_a_line_for_each_seed(capsys: pytest.CaptureFixture[str]) -> None:
    status, out = proved(capsys, "--tests", "groups", "--batch", "3-5")
    lines = [json.loads(line) for line in out.splitlines()]
    assert status == 0 and [it["seed"] for it in lines] == [3, 4, 5]
    assert len({it["tests"][0]["measured"] for it in lines}) == 3


@pytest.mark.parametrize(
    "words",
    [("--tests", "luck"), ("--fault", "gremlins"), ("--batch", "9-3"), ("--bench", "nowhere.json")],
)
def test_what_is_no_good_ends_with_2(
    words: tuple[str, ...], capsys: pytest.CaptureFixture[str]
) -> None:
    with pytest.raises(SystemExit) as ended:
        raise SystemExit(main(["prove", str(BARROW), *words]))
    assert ended.value.code == 2
