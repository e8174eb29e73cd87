"""From where a run starts, and by how much things differ from what was counted on."""

from typing import Annotated

from lumvak.core.record import Document, about


class RunSettings(Document, frozen=True):
    """From where a run starts, and by how much things differ from what was counted on.

    Spreads are standard deviations; the defaults and their reasons are in docs/methods.md, 17.
    """

    start_charge: Annotated[
        float,
        about(
            "Starts at",
            "%",
            ge=0.05,
            le=1,
            also="state of charge SoC",
            tip="How full the pack is when the run starts",
        ),
    ] = 1.0
    capacity_spread: Annotated[
        float,
        about(
            "Capacity differs by",
            "%",
            ge=0,
            le=0.3,
            tip="Standard deviation from cell to cell of one sorted batch; the weakest group "
            "counts",
        ),
    ] = 0.02
    resistance_spread: Annotated[
        float,
        about(
            "Resistance differs by",
            "%",
            ge=0,
            le=0.5,
            tip="Standard deviation between the sheet and what is delivered, joints included",
        ),
    ] = 0.10
    ambient_spread_k: Annotated[
        float,
        about("Ambient differs by", "K", ge=0, le=30, tip="Standard deviation from day to day"),
    ] = 5.0
    load_spread: Annotated[
        float,
        about(
            "Load differs by",
            "%",
            ge=0,
            le=0.5,
            tip="Standard deviation by rider, wind, slope or what is cut",
        ),
    ] = 0.08
    draws: Annotated[
        int, about("Packs drawn", ge=200, le=20000, tip="How many packs are drawn from the spreads")
    ] = 2000
    seed: Annotated[
        int,
        about("Seed", ge=0, le=2**31 - 1, tip="Where chance begins, so that a run can be repeated"),
    ] = 1
