"""What pieces are cut from, and how far they reach beyond the last joint."""

from __future__ import annotations

from pydantic import Field

from lumvak.core.record import Document


class Making(Document):
    """What pieces are cut from, and how far they reach beyond the last joint."""

    roll_m: float = Field(
        default=5.0, title="A roll holds", gt=0, le=1000, json_schema_extra={"unit": "m"}
    )
    sheet_mm: float = Field(
        default=300.0, title="A sheet is long", gt=0, le=10_000, json_schema_extra={"unit": "mm"}
    )
    overhang_mm: float = Field(
        default=5.0, title="Beyond the last joint", ge=0, le=100, json_schema_extra={"unit": "mm"}
    )
    check_mohm: float | None = Field(
        default=None, title="Measured", gt=0, le=1e6, json_schema_extra={"unit": "mΩ"}
    )
    check_meter_mohm: float = Field(
        default=0.1, title="Meter within", ge=0, le=1e5, json_schema_extra={"unit": "mΩ"}
    )
    check_length_mm: float = Field(
        default=200.0, title="Between the probes", gt=0, le=1e5, json_schema_extra={"unit": "mm"}
    )
    check_width_mm: float = Field(
        default=8.0, title="Width", gt=0, le=1000, json_schema_extra={"unit": "mm"}
    )
    check_thickness_mm: float = Field(
        default=0.15, title="Thickness", gt=0, le=50, json_schema_extra={"unit": "mm"}
    )
