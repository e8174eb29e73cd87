"""From where a run starts, and by how much things differ from what was counted on."""

from __future__ import annotations

from pydantic import Field

from lumvak.core.record import Document


class RunSettings(Document):
    """From where a run starts, and by how much things differ from what was counted on.

    Spreads are standard deviations; the defaults and their reasons are in docs/methods.md, 17.
    """

    start_charge: float = Field(
        default=1.0, title="Starts at", ge=0.05, le=1, json_schema_extra={"unit": "%"}
    )
    capacity_spread: float = Field(
        default=0.02, title="Capacity differs by", ge=0, le=0.3, json_schema_extra={"unit": "%"}
    )
    resistance_spread: float = Field(
        default=0.10, title="Resistance differs by", ge=0, le=0.5, json_schema_extra={"unit": "%"}
    )
    ambient_spread_k: float = Field(
        default=5.0, title="Ambient differs by", ge=0, le=30, json_schema_extra={"unit": "K"}
    )
    load_spread: float = Field(
        default=0.08, title="Load differs by", ge=0, le=0.5, json_schema_extra={"unit": "%"}
    )
    draws: int = Field(default=2000, title="Packs drawn", ge=200, le=20000)
    seed: int = Field(default=1, title="Seed", ge=0, le=2**31 - 1)
