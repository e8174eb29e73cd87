"""Figures of two packs lead to what they are made of."""

import pytest
from msgspec.structs import replace

from lumvak.core.beside.figures import beside_figures
from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.side import SideLimit
from lumvak.core.beside.together import together
from lumvak.core.figures.figure import walk
from tests.beside_pairs import straight

ONE = replace(straight("one", 42.0, 58.8, 9.0, 0.09), limits=(SideLimit("BMS", 30.0, 5.0),))
OTHER = replace(
    straight("other", 42.0, 58.8, 20.0, 0.06, at=0.9),
    limits=(SideLimit("cells", 40.0, 10.0, assumed=True),),
)


def test_each_is_made_of_what_stands_under_it() -> None:
    found = together([ONE, OTHER], SharedLoad(amps=20.0))
    made = {it.key: it for it in beside_figures(found)}
    apart, peak, safe = (made[f"beside.{key}"] for key in ("apart_v", "peak_a", "safe_v"))
    emf = [it.number for it in apart.inputs]
    assert apart.number == pytest.approx(emf[0] - emf[1])
    fast = [it.number for it in peak.inputs[1:]]
    assert peak.number == pytest.approx(apart.number / sum(fast))
    # Five amps are all that the BMS of the first takes, whichever of both is the higher.
    assert safe.number == pytest.approx(5.0 * sum(fast))
    every = {it.key: it for it in walk(made.values())}
    assert every["beside.other.takes_a"].assumed and not every["beside.one.takes_a"].assumed
    assert safe.assumed and made["beside.hours"].number == pytest.approx(
        found.course.hours if found.course else 0.0
    )


def test_packs_that_must_not_be_in_parallel_have_none() -> None:
    other = replace(OTHER, series=13)
    assert not [*beside_figures(together([ONE, other], SharedLoad(amps=20.0)))]
