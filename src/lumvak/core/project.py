"""The project: what the builder decided or measured; saved, validated and undoable.

``None`` in a field means that the builder has not said; the evaluation then takes a value by a
stated rule and marks everything made from it as assumed.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Annotated, Any, Literal, get_args

from pydantic import Field, ValidationError

from lumvak.core.catalogue import Parts
from lumvak.core.document import Document, PartId
from lumvak.core.need import Need
from lumvak.core.powersettings import (
    BalanceLeads,
    Leads,
    PowerParts,
    Protection,
    Rest,
    School,
    Start,
)
from lumvak.core.room import Arrangement

PROJECT_FORMAT = "lumvak-project"
PROJECT_VERSION = 1
MOST_BESIDE = 3

Ranking = Literal["balance", "lightest", "cheapest", "coolest", "smallest"]
TakeOff = Literal["end", "middle", "spread"]
Pattern = Literal["strips", "crossed", "sheet", "tabs", "wire"]
Scheme = Literal["groups", "strings-ends", "strings-levels"]
Joining = Literal["weld", "solder", "cap", "screw"]
Enclosure = Literal["closed", "still", "moving"]


class Held(Document):
    """Cells in the drawer: so many of one kind."""

    cell: PartId
    count: int = Field(title="How many", ge=1, le=100_000)


class Beside(Document):
    """An option set beside the one in hand, to be compared."""

    cell: PartId
    series: int = Field(ge=1, le=300)
    parallel: int = Field(ge=1, le=500)


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
    most_mass_kg: float | None = Field(
        default=None, title="No heavier than", gt=0, le=1e4, json_schema_extra={"unit": "kg"}
    )
    most_cost: float | None = Field(default=None, title="No dearer than", gt=0, le=1e6)
    origin: Literal["any", "new", "reclaimed"] = Field(default="any", title="Cells")
    drawer: tuple[Held, ...] = Field(default=(), title="Cells on hand", max_length=100)
    drawer_only: bool = Field(default=False, title="Only from the cells on hand")
    beside: tuple[Beside, ...] = Field(default=(), title="Side by side", max_length=MOST_BESIDE)


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


class Strip(Document):
    """The conductor of one kind of joint; ``part`` ``None`` follows the recommendation."""

    part: PartId | None = Field(default=None, title="Conductor")
    width_mm: float | None = Field(
        default=None, title="Width", gt=0, le=500, json_schema_extra={"unit": "mm"}
    )
    layers: int | None = Field(default=None, title="Layers", ge=1, le=12)
    strips: int | None = Field(default=None, title="Strips side by side", ge=1, le=500)


TerminalName = Annotated[str, Field(pattern=r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}[pn]$")]


class PieceChange(Document):
    """One piece of strip between two terminals that differs from the rest.

    ``layers`` 0 leaves it out; a pair that the pattern does not join is added as a piece.
    """

    a: TerminalName
    b: TerminalName
    layers: int = Field(default=1, ge=0, le=12)


class MeasuredCell(Document):
    """A cell that was measured, by its place in the pack."""

    cell: str = Field(
        title="Place",
        pattern=r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}$",
        json_schema_extra={"like": "a place such as g3c2, the second cell of group 3"},
    )
    mohm: float | None = Field(default=None, gt=0, le=1e5)
    volts: float | None = Field(default=None, gt=0, le=6)
    ah: float | None = Field(default=None, gt=0, le=1e4)


class LeadPoint(Document):
    """Where one main lead leaves the strips: at a cell of the end group, or on the way to one."""

    pole: Literal["+", "-"]
    cell: int = Field(ge=1, le=500)
    toward: int | None = Field(default=None, ge=1, le=500)
    share: float = Field(default=0.0, ge=0, le=1)


class Joints(Document):
    """How groups and series joints are made, and what the builder lets a strip carry."""

    group: Strip = Strip()
    series: Strip = Strip()
    scheme: Scheme = Field(default="groups", title="Groups or strings")
    side_a: Pattern = Field(default="strips", title="Side A")
    side_b: Pattern = Field(default="strips", title="Side B")
    joining: Joining | None = Field(default=None, title="Joined by")
    weld_points: int = Field(default=4, title="Weld points per cell", ge=1, le=40)
    contact_mohm: float | None = Field(
        default=None, title="One joint on a cell", gt=0, le=100, json_schema_extra={"unit": "mΩ"}
    )
    contact_limit_a: float | None = Field(
        default=None,
        title="A joint on a cell carries",
        gt=0,
        le=1000,
        json_schema_extra={"unit": "A"},
    )
    link_a: float | None = Field(
        default=None, title="Fusible link per cell", gt=0, le=200, json_schema_extra={"unit": "A"}
    )
    link_mohm: float | None = Field(
        default=None, title="Resistance of a link", gt=0, le=1000, json_schema_extra={"unit": "mΩ"}
    )
    wire_mm2: float | None = Field(
        default=None, title="Wire between cells", gt=0, le=200, json_schema_extra={"unit": "mm²"}
    )
    changes: tuple[PieceChange, ...] = Field(default=(), title="Pieces changed", max_length=5000)
    lead_points: tuple[LeadPoint, ...] = Field(default=(), title="Main leads at", max_length=40)
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


class Project(Document):
    """Everything the builder decided, with copies of the parts in use."""

    format: Literal["lumvak-project"] = "lumvak-project"
    version: Literal[1] = 1
    name: str = Field(default="Untitled pack", title="Name", min_length=1, max_length=120)
    note: str = Field(default="", title="Note", max_length=5000)
    need: Need = Need()
    pack: Pack = Pack()
    run: RunSettings = RunSettings()
    arrangement: Arrangement = Arrangement()
    measured: tuple[MeasuredCell, ...] = Field(
        default=(), title="Measured cells", max_length=20_000
    )
    joints: Joints = Joints()
    making: Making = Making()
    leads: Leads = Leads()
    charge_leads: Leads = Leads(length_m=0.3)
    balance_leads: BalanceLeads = BalanceLeads()
    protection: Protection = Protection()
    power: PowerParts = PowerParts()
    start: Start = Start()
    rest: Rest = Rest()
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
        return text if title_in(text) or not path else f"{where}: {text}"
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
    if kind == "string_pattern_mismatch" and "like" in _extra_of(item["loc"]):
        return f"{where}: {shown} was given; accepted: {_extra_of(item['loc'])['like']}"
    if kind == "finite_number":
        return f"{where}: {shown} was given; accepted: a finite number {unit}".rstrip()
    return f"{where}: {shown} was given; {item['msg'][0].lower()}{item['msg'][1:]}"


def _extra_of(location: tuple[Any, ...]) -> dict[str, Any]:
    """What the schema of a field says beside its type; records in lists are looked into."""
    model: Any = Project
    extra: Any = None
    for step in location:
        if isinstance(step, int):
            model = next(iter(get_args(model)), None)
            continue
        info = getattr(model, "model_fields", {}).get(step)
        if info is None:
            return {}
        extra, model = info.json_schema_extra, info.annotation
    return extra if isinstance(extra, dict) else {}


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
