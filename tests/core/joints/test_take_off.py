"""Where the main leads leave: the rules in words, the builder's own, and a step to the side."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.joints import LeadPoint
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.take_off import Lead, leads_of, stepped_lead
from lumvak.core.spelling import spoken

AHEAD = ((1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0))


@pytest.fixture(scope="module")
def joined_pack(catalogue: Catalogue, demos: dict[str, Project]) -> JoinedPack:
    return evaluate(demos["cycle"], catalogue).laid_out.joined_pack


@pytest.mark.parametrize("take_off", ["end", "middle", "spread"])
def test_leads_leave_the_end_groups_at_their_free_poles(
    joined_pack: JoinedPack, take_off: str
) -> None:
    leads, flaws = leads_of(joined_pack.pieces, take_off, ())  # type: ignore[arg-type]
    assert not flaws
    parallel, last = joined_pack.layout.parallel, joined_pack.layout.series - 1
    each = parallel if take_off == "spread" else 1
    assert [lead.pole for lead in leads] == ["-"] * each + ["+"] * each
    for lead in leads:
        group, end = divmod(lead.terminal // 2, parallel)[0], lead.terminal % 2
        assert (group, end) == ((0, 1) if lead.pole == "-" else (last, 0))
        assert 0.0 <= lead.share <= 1.0
        assert (lead.toward is None) == (lead.share == 0.0)


def test_a_lead_at_a_cell_that_is_not_there_is_told_and_left_out(joined_pack: JoinedPack) -> None:
    many = joined_pack.layout.parallel
    points = (LeadPoint(pole="-", cell=many + 1), LeadPoint(pole="-", cell=many))
    leads, flaws = leads_of(joined_pack.pieces, "end", points)
    assert [flaw.code for flaw in flaws] == ["lead-nowhere"]
    assert f"the group has {many}" in spoken(flaws[0].text)
    assert [lead.pole for lead in leads] == ["-", "+"]
    assert leads[0].terminal // 2 == many - 1


@given(data=st.data())
def test_a_step_leads_to_another_cell_ahead_and_back_again(
    joined_pack: JoinedPack, data: st.DataObject
) -> None:
    layout = joined_pack.layout
    cell = data.draw(st.integers(0, layout.parallel - 1))
    lead = Lead("-", 2 * cell + 1, None, 0.0)
    across, down = data.draw(st.sampled_from(AHEAD))
    moved = stepped_lead(layout, lead, (across, down))
    places = layout.terminal_mm[:, :2]
    way = (places[: 2 * layout.parallel][1::2] - places[lead.terminal]) @ [across, down]
    assert (moved is None) == (not (way > 1.0).any())
    if moved is not None:
        assert layout.group[moved.terminal // 2] == layout.group[cell]
        assert moved.terminal % 2 == lead.terminal % 2
        step = places[moved.terminal] - places[lead.terminal]
        assert float(step @ [across, down]) > 1.0
        assert stepped_lead(layout, moved, (-across, -down)) is not None


def test_a_lead_on_a_strip_steps_from_where_it_lies(joined_pack: JoinedPack) -> None:
    places = joined_pack.layout.terminal_mm[:, :2]
    way = places[3] - places[1]
    length = float((way @ way) ** 0.5)
    towards = (float(way[0]) / length, float(way[1]) / length)
    between = Lead("-", 1, 3, 0.5)
    moved = stepped_lead(joined_pack.layout, between, towards)
    assert moved == Lead("-", 3, None, 0.0)
