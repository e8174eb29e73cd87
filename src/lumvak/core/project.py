"""The project: what the builder decided or measured; saved, validated and undoable.

``None`` in a field means that the builder has not said; the evaluation then takes a value by a
stated rule and marks everything made from it as assumed.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any, Literal, Self

from pydantic import Field, ValidationError, model_validator

from lumvak.core.catalogue import Document, PartId, Parts

PROJECT_FORMAT = "lumvak-project"
PROJECT_VERSION = 1
MOST_DUTY_STEPS = 500

Kind = Literal["vehicle", "tool", "supply"]
LoadBasis = Literal["current", "power", "duty"]
EnduranceBasis = Literal["runtime", "capacity", "energy", "distance", "open"]
Ranking = Literal["balance", "lightest", "cheapest", "coolest", "smallest"]
School = Literal["temperature", "rule", "loss"]
TakeOff = Literal["end", "middle", "spread"]
BalancingSchool = Literal["must", "matched"]
Enclosure = Literal["closed", "still", "moving"]


class DutyStep(Document):
    """A part of a duty: an amount in A or W for a time in s."""

    amount: float = Field(title="Amount", ge=0, le=1e6)
    seconds: float = Field(title="Seconds", gt=0, le=1e6, json_schema_extra={"unit": "s"})


class Need(Document):
    """What is to be powered, and what limits it sets."""

    kind: Kind = Field(default="vehicle", title="Equipment")
    rated_voltage_v: float = Field(
        default=36.0, title="Rated voltage", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    max_voltage_v: float | None = Field(
        default=None, title="Survives", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    stop_voltage_v: float | None = Field(
        default=None, title="Stops at", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    nickel_cells: int | None = Field(
        default=None, title="Nickel cells in the old pack", ge=1, le=100
    )
    contacts: Literal[2, 3] | None = Field(default=None, title="Contacts of the old pack")
    load_basis: LoadBasis = Field(default="current", title="Load given as")
    current_a: float = Field(
        default=15.0, title="Continuous current", gt=0, le=5000, json_schema_extra={"unit": "A"}
    )
    power_w: float = Field(
        default=500.0, title="Continuous power", gt=0, le=1e6, json_schema_extra={"unit": "W"}
    )
    efficiency: float | None = Field(
        default=None, title="Efficiency", gt=0, le=1, json_schema_extra={"unit": "%"}
    )
    duty: tuple[DutyStep, ...] = Field(
        default=(DutyStep(amount=30.0, seconds=10.0), DutyStep(amount=12.0, seconds=50.0)),
        title="Duty",
        min_length=1,
        max_length=MOST_DUTY_STEPS,
    )
    duty_unit: Literal["A", "W"] = Field(default="A", title="Duty in")
    peak_current_a: float | None = Field(
        default=None, title="Peak current", gt=0, le=10000, json_schema_extra={"unit": "A"}
    )
    peak_duration_s: float | None = Field(
        default=None, title="Peak lasts", gt=0, le=3600, json_schema_extra={"unit": "s"}
    )
    endurance_basis: EnduranceBasis = Field(default="runtime", title="How long, given as")
    runtime_h: float = Field(
        default=1.0, title="Run time", gt=0, le=1000, json_schema_extra={"unit": "h"}
    )
    capacity_ah: float = Field(
        default=15.0, title="Capacity wanted", gt=0, le=1e5, json_schema_extra={"unit": "Ah"}
    )
    energy_wh: float = Field(
        default=500.0, title="Energy wanted", gt=0, le=1e6, json_schema_extra={"unit": "Wh"}
    )
    distance_km: float = Field(
        default=30.0, title="Distance", gt=0, le=1e4, json_schema_extra={"unit": "km"}
    )
    consumption_wh_per_km: float = Field(
        default=12.0, title="Consumption", gt=0, le=1e4, json_schema_extra={"unit": "Wh/km"}
    )
    ambient_c: float | None = Field(
        default=None, title="Ambient temperature", ge=-40, le=70, json_schema_extra={"unit": "°C"}
    )
    charger_voltage_v: float | None = Field(
        default=None, title="Charger voltage", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    charger_current_a: float | None = Field(
        default=None, title="Charger current", gt=0, le=1000, json_schema_extra={"unit": "A"}
    )

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.stop_voltage_v is not None and self.stop_voltage_v >= self.rated_voltage_v:
            raise ValueError(
                f"Stops at: {self.stop_voltage_v:g} V is not under the rated voltage; "
                f"accepted: a stop voltage below {self.rated_voltage_v:g} V"
            )
        if self.max_voltage_v is not None and self.max_voltage_v < self.rated_voltage_v:
            raise ValueError(
                f"Survives: {self.max_voltage_v:g} V is under the rated voltage; "
                f"accepted: {self.rated_voltage_v:g} V or more"
            )
        peak = self.peak_current_a
        if peak is not None and self.load_basis == "current" and peak < self.current_a:
            raise ValueError(
                f"Peak current: {peak:g} A is under the continuous current; "
                f"accepted: {self.current_a:g} A or more"
            )
        if not any(step.amount > 0.0 for step in self.duty):
            raise ValueError("Duty: every step is 0; accepted: a step with a load in it")
        return self


class Pack(Document):
    """The option in hand; ``None`` follows the best of the ranking."""

    ranking: Ranking = Field(default="balance", title="Ranked by")
    cell: PartId | None = Field(default=None, title="Cell")
    series: int | None = Field(default=None, title="In series", ge=1, le=300)
    parallel: int | None = Field(default=None, title="In parallel", ge=1, le=500)
    derating: float = Field(
        default=0.8,
        title="Share of the cell's continuous rating",
        gt=0,
        le=1,
        json_schema_extra={"unit": "%"},
    )
    end_charge: float = Field(
        default=0.05,
        title="Holds the stop voltage down to",
        ge=0,
        le=0.5,
        json_schema_extra={"unit": "%"},
    )
    ageing_new: float = Field(
        default=0.92, title="Reserve, new cells", gt=0, le=1, json_schema_extra={"unit": "%"}
    )
    ageing_reclaimed: float = Field(
        default=0.8, title="Reserve, reclaimed cells", gt=0, le=1, json_schema_extra={"unit": "%"}
    )
    enclosure: Enclosure = Field(default="closed", title="Around the pack")
    temperature_limit_c: float = Field(
        default=50.0,
        title="Cells no warmer than",
        gt=0,
        le=100,
        json_schema_extra={"unit": "°C"},
    )
    ceiling_v: float | None = Field(
        default=None, title="Charge ceiling per cell", gt=0, le=6, json_schema_extra={"unit": "V"}
    )


class Strip(Document):
    """The conductor of one kind of joint; ``part`` ``None`` follows the recommendation."""

    part: PartId | None = Field(default=None, title="Conductor")
    width_mm: float | None = Field(
        default=None, title="Width", gt=0, le=500, json_schema_extra={"unit": "mm"}
    )
    layers: int | None = Field(default=None, title="Layers", ge=1, le=12)
    strips: int | None = Field(default=None, title="Strips side by side", ge=1, le=500)


class Joints(Document):
    """How groups and series joints are made, and what the builder lets a strip carry."""

    group: Strip = Strip()
    series: Strip = Strip()
    take_off: TakeOff = Field(default="middle", title="Main lead leaves from")
    gap_mm: float = Field(
        default=1.5, title="Gap between cells", ge=0, le=50, json_schema_extra={"unit": "mm"}
    )
    welder_limit_mm: float = Field(
        default=0.2,
        title="Thickest nickel the welder joins",
        gt=0,
        le=5,
        json_schema_extra={"unit": "mm"},
    )
    school: School = Field(default="temperature", title="What a strip carries")
    rise_limit_k: float = Field(
        default=20.0, title="Rise over the cell", gt=0, le=100, json_schema_extra={"unit": "K"}
    )
    rule_a_per_mm2: float = Field(
        default=5.0, title="Rule, nickel", gt=0, le=100, json_schema_extra={"unit": "A/mm²"}
    )
    loss_mv: float = Field(
        default=15.0, title="Loss per joint", gt=0, le=1000, json_schema_extra={"unit": "mV"}
    )


class Leads(Document):
    """The two main leads from the pack to the equipment."""

    area_mm2: float | None = Field(
        default=None, title="Section", gt=0, le=500, json_schema_extra={"unit": "mm²"}
    )
    length_m: float = Field(
        default=0.5, title="Length of one lead", gt=0, le=100, json_schema_extra={"unit": "m"}
    )
    outer_mm: float | None = Field(
        default=None, title="Outer diameter", gt=0, le=60, json_schema_extra={"unit": "mm"}
    )
    rise_limit_k: float = Field(
        default=35.0, title="Rise over the air", gt=0, le=150, json_schema_extra={"unit": "K"}
    )


class Protection(Document):
    """The BMS; ``board`` ``None`` follows the recommendation."""

    board: PartId | None = Field(default=None, title="Board")
    balancing: BalancingSchool = Field(default="must", title="Balancing")
    sensor: bool = Field(default=True, title="Temperature sensor wanted")


class Project(Document):
    """Everything the builder decided, with copies of the parts in use."""

    format: Literal["lumvak-project"] = "lumvak-project"
    version: Literal[1] = 1
    name: str = Field(default="Untitled pack", title="Name", min_length=1, max_length=120)
    note: str = Field(default="", title="Note", max_length=5000)
    need: Need = Need()
    pack: Pack = Pack()
    joints: Joints = Joints()
    leads: Leads = Leads()
    protection: Protection = Protection()
    parts: Parts = Parts()


class ProjectError(ValueError):
    """An edit that cannot be accepted; the message says what could, ``path`` names the field."""

    def __init__(self, message: str, path: str) -> None:
        super().__init__(message)
        self.path = path


def with_values(project: Project, changes: Mapping[str, Any]) -> Project:
    """A copy of ``project`` with ``changes`` by dotted path (``need.current_a``), validated.

    Raises ProjectError with one sentence naming the field and what would be accepted.
    """
    document = project.model_dump(exclude={"parts"})
    for path, value in changes.items():
        *branch, leaf = path.split(".")
        node = document
        for step in branch:
            node = node[step]
        if leaf not in node:
            raise KeyError(path)
        node[leaf] = value
    try:
        fresh = Project.model_validate(document)
    except ValidationError as error:
        raise ProjectError(sentences(error)[0], _path_of(error)) from error
    return fresh.model_copy(update={"parts": project.parts})


def _path_of(error: ValidationError) -> str:
    """Dotted path of the first field at fault; a rule between fields names it by its title."""
    item = error.errors()[0]
    path = ".".join(str(step) for step in item["loc"])
    if item["type"] == "value_error" and path in Project.model_fields:
        title = str(item["ctx"]["error"]).partition(": ")[0]
        model = Project.model_fields[path].annotation
        for name, info in getattr(model, "model_fields", {}).items():
            if info.title == title:
                return f"{path}.{name}"
    return path


def sentences(error: ValidationError) -> list[str]:
    """What a validation error says, each as a sentence naming the field and what is accepted."""
    return [_sentence(item) for item in error.errors()]


def _sentence(item: Any) -> str:
    path = ".".join(str(step) for step in item["loc"])
    title, unit = _title_of(item["loc"])
    where = f"{title} ({path})" if title else (path or "the document")
    kind, context = item["type"], item.get("ctx", {})
    given = item.get("input")
    if unit == "%":
        unit = "(1 is 100 %)"
    shown = f"{given!r}" if isinstance(given, str | int | float | bool) else "what is there"
    if kind == "value_error":
        text = str(context.get("error", item["msg"]))
        return text if title_in(text) else f"{where}: {text}"
    if kind in ("greater_than", "greater_than_equal", "less_than", "less_than_equal"):
        wanted = {
            "greater_than": lambda: f"a number over {context['gt']:g}",
            "greater_than_equal": lambda: f"{context['ge']:g} or more",
            "less_than": lambda: f"a number under {context['lt']:g}",
            "less_than_equal": lambda: f"{context['le']:g} or less",
        }[kind]()
        return f"{where}: {shown} was given; accepted: {wanted} {unit}".rstrip()
    if kind == "extra_forbidden":
        return f"{where}: unknown field; remove it or correct its name"
    if kind == "missing":
        return f"{where}: missing; it must be given"
    if kind == "literal_error":
        return f"{where}: {shown} was given; accepted: {context['expected']}"
    if kind == "finite_number":
        return f"{where}: {shown} was given; accepted: a finite number {unit}".rstrip()
    return f"{where}: {shown} was given; {item['msg'][0].lower()}{item['msg'][1:]}"


def title_in(text: str) -> bool:
    """Whether a message already names its field, as those of this module's own rules do."""
    head, colon, _ = text.partition(": ")
    return bool(colon) and head[:1].isupper()


def _title_of(location: tuple[Any, ...]) -> tuple[str, str]:
    model: Any = Project
    title, unit = "", ""
    for step in location:
        fields = getattr(model, "model_fields", {})
        info = fields.get(step)
        if info is None:
            return title, unit
        title = info.title or ""
        extra = info.json_schema_extra
        unit = str(extra.get("unit", "")) if isinstance(extra, dict) else ""
        model = info.annotation
    return title, unit


@lru_cache(maxsize=256)
def default_value(path: str) -> Any:
    """What a field is in a new project, by dotted path; ``None`` where there is no such field."""
    node: Any = Project()
    for step in path.split("."):
        node = getattr(node, step, None)
    return node


def field_title(path: str) -> str:
    """The plain name of a field by dotted path."""
    return _title_of(tuple(path.split(".")))[0]
