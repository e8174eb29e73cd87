from lumvak.core.figures.collected import by_key, limits_of, worst_first
from lumvak.core.figures.figure import Figure, computed, constant
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import PathLoad


def figure(key: str, *inputs: Figure) -> Figure:
    return computed(key, key, 1.0, "A", "as it is", "methods 1", *inputs)


def test_figures_bring_what_they_were_made_from() -> None:
    ground = constant("ground", "Ground", 1.0, "A", "", "")
    one, two = figure("one", ground), figure("two", ground)
    found = by_key((one,), (), (two,))
    assert list(found) == ["one", "ground", "two"]
    assert found["ground"] is ground


def test_the_worst_comes_first_and_alike_bad_ones_keep_their_order() -> None:
    def told(code: str, severity: str) -> Finding:
        return Finding(code, severity, "", "", "", "need")  # type: ignore[arg-type]

    notes = told("a", "note"), told("b", "stop"), told("c", "warn")
    others = told("d", "stop"), told("e", "note")
    assert [item.code for item in worst_first(notes, others)] == ["b", "d", "c", "a", "e"]


def test_limits_are_the_figures_of_the_links() -> None:
    load = PathLoad(10.0, 20.0, 5.0)
    limit = figure("limit")
    link = load.link("wire", "wire", "thin", "power", limit)
    assert limits_of((link,)) == (limit,)
    # Without a curve it holds for the peak what it holds for good; less than the load bursts it.
    assert link.peak_a == link.continuous_a == 1.0
    assert link.bursts
    assert link.headroom == 1.0 / 10.0 - 1.0
