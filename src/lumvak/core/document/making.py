"""What pieces are cut from, and how far they reach beyond the last joint."""

from typing import Annotated

from lumvak.core.record import Document, about


class Making(Document, frozen=True):
    """What pieces are cut from, and how far they reach beyond the last joint."""

    roll_m: Annotated[
        float, about("A roll holds", "m", gt=0, le=1000, tip="Length of strip on one roll")
    ] = 5.0
    sheet_mm: Annotated[
        float, about("A sheet is long", "mm", gt=0, le=10_000, tip="Length of one sheet")
    ] = 300.0
    overhang_mm: Annotated[
        float,
        about("Beyond the last joint", "mm", ge=0, le=100, tip="Of a strip over the last joint"),
    ] = 5.0
    check_mohm: (
        Annotated[
            float,
            about(
                "Measured", "mΩ", gt=0, le=1e6, tip="Resistance of the test piece, with four wires"
            ),
        ]
        | None
    ) = None
    check_meter_mohm: Annotated[
        float, about("Meter within", "mΩ", ge=0, le=1e5, tip="How far off that meter may be")
    ] = 0.1
    check_length_mm: Annotated[
        float,
        about(
            "Between the probes",
            "mm",
            gt=0,
            le=1e5,
            tip="Length of the test piece between the probes",
        ),
    ] = 200.0
    check_width_mm: Annotated[
        float, about("Width", "mm", gt=0, le=1000, tip="Width of the test piece")
    ] = 8.0
    check_thickness_mm: Annotated[
        float,
        about("Thickness", "mm", gt=0, le=50, tip="Thickness of the test piece, by a caliper"),
    ] = 0.15
