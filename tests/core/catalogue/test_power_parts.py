"""Parts of the power path as the catalogue gives them."""

import pytest
from msgspec.structs import asdict

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import BandPoint, Connector, Surge, Switch, check_band
from lumvak.core.checked import NotAccepted, made
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.power.fuses import next_standard_a


def test_the_catalogue_is_broad(catalogue: Catalogue) -> None:
    assert len(catalogue.fuses) >= 20
    assert len(catalogue.wires) >= 24
    assert len(catalogue.connectors) >= 12
    assert len(catalogue.switches) >= 6
    assert len(catalogue.surges) >= 8
    kinds = {board.kind for board in catalogue.boards.values()}
    assert kinds == {"full", "protection", "charger", "balancer"}
    assert any(board.adjustable for board in catalogue.boards.values())
    for part in (*catalogue.fuses.values(), *catalogue.wires.values()):
        assert part.sample
    assert next_standard_a(catalogue.fuses.values(), 26.0) == 30.0


@pytest.mark.parametrize(
    ("points", "word"),
    [
        (((2.0, 1.0, 5.0), (1.5, 0.5, 2.0)), "points that rise"),
        (((1.5, 1.0, 0.5), (2.0, 0.4, 0.45)), "before the 1 s that it holds"),
        (((1.5, 1.0, 5.0), (2.0, 2.0, 4.0)), "times that fall"),
        (((1.5, 1.0, 5.0), (2.0, 0.5, 6.0)), "does not open sooner"),
        (((1.5, 1.0, None), (2.0, 0.5, 6.0)), "two or more"),
    ],
)
def test_a_band_out_of_order_is_refused_with_what_would_do(
    points: tuple[tuple[float, float, float | None], ...], word: str
) -> None:
    band = [BandPoint(ratio=a, least_s=b, most_s=c) for a, b, c in points]
    with pytest.raises(ValueError, match=word):
        check_band("band", band)
    records = tuple(asdict(point) for point in band)
    with pytest.raises(ProjectError, match=word) as caught:
        with_values(Project(), {"power.fuse_band": records})
    assert caught.value.path.startswith("power")


def test_impossible_parts_are_refused() -> None:
    base: dict[str, object] = {
        "id": "x",
        "name": "X",
        "continuous_a": 60.0,
        "short_a": 110.0,
        "short_s": 10.0,
        "mated_mohm": 0.5,
        "voltage_dc_v": 60.0,
        "price": 1.0,
    }
    with pytest.raises(NotAccepted, match=r"accepted: mated_mohm up to 8\.3"):
        made(Connector, {**base, "mated_mohm": 20.0})
    with pytest.raises(NotAccepted, match="short_a must be over continuous_a"):
        made(Connector, {**base, "short_a": 50.0})
    with pytest.raises(NotAccepted, match="belong together"):
        made(Connector, {**base, "anti_spark_ohm": 5.0})
    with pytest.raises(NotAccepted, match="thermistor needs beta_k"):
        made(
            Surge,
            {
                "id": "t",
                "name": "T",
                "kind": "thermistor",
                "ohm": 1.0,
                "energy_j": 9.0,
                "price": 1.0,
            },
        )
    with pytest.raises(NotAccepted, match="short_a must be over"):
        made(
            Switch,
            {
                "id": "s",
                "name": "S",
                "kind": "switch",
                "continuous_a": 20.0,
                "short_a": 20.0,
                "short_s": 1.0,
                "breaking_a": 20.0,
                "voltage_dc_v": 32.0,
                "resistance_mohm": 1.0,
                "price": 1.0,
            },
        )
