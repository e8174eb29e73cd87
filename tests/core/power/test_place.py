"""A part picked for a place: the named one, none, or the best of those that serve."""

from msgspec import Struct

from lumvak.core.document.power import NONE
from lumvak.core.figures.point import Point
from lumvak.core.power.place import JudgedPart, place_of


class Peg(Struct, frozen=True):
    """A made-up part."""

    id: str
    size: float
    price: float

    @property
    def name(self) -> str:
        return self.id


PEGS = (Peg("a", 1.0, 5.0), Peg("b", 3.0, 2.0), Peg("c", 4.0, 1.0))


def judge(peg: Peg) -> JudgedPart[Peg]:
    short = () if peg.size >= 2.0 else (Point("short", "too short", "a longer one"),)
    return JudgedPart(peg, short, peg.size / 2.0 - 1.0)


def by_price(item: JudgedPart[Peg]) -> tuple[float, ...]:
    return (item.part.price,)


def test_the_best_that_serves_is_in_force_until_one_is_named() -> None:
    free = place_of(PEGS, None, judge, by_price)
    assert free.part is PEGS[2] and free.automatic
    named = place_of(PEGS, "a", judge, by_price)
    assert named.part is PEGS[0] and not named.automatic and named.chosen.reasons
    assert place_of(PEGS, NONE, judge, by_price).part is None
    assert place_of(PEGS, "nobody", judge, by_price).part is None
    assert [item.part.id for item in free.found] == ["c", "b", "a"]


def test_the_search_ends_at_the_first_that_is_best() -> None:
    judged = []

    def watched(peg: Peg) -> JudgedPart[Peg]:
        judged.append(peg.id)
        return judge(peg)

    place = place_of(
        PEGS, None, watched, by_price, done=lambda _: True, able=lambda peg: peg.size >= 2.0
    )
    assert place.part is PEGS[1] and judged == ["b"]
