"""A second pack beside this one: what is known of it, how both are joined, and what they drive."""

from typing import Annotated, Literal

from lumvak.core.record import Document, PartId, Unfit, about

By = Literal["direct", "switch", "diodes", "ideal-diodes", "one-at-a-time"]
Port = Literal["discharge", "charge"]
MOST_MORE = 2
Charged = Annotated[float, about(ge=0, le=1)]


class MorePack(Document, frozen=True):
    """A third or a fourth pack beside both, as a few numbers; in all else it is as this pack."""

    capacity_ah: Annotated[float, about("Capacity", "Ah", gt=0, le=1e5, tip="Of this one")]
    ohm: (
        Annotated[
            float,
            about(
                "Resistance",
                "Ω",
                gt=0,
                le=1000,
                tip="At its connector; by capacity where not given",
            ),
        ]
        | None
    ) = None
    at: Annotated[
        Charged, about("Its charge", "%", also="state of charge SoC", tip="How full it is")
    ] = 1.0


class SecondPack(Document, frozen=True):
    """The second pack as a few numbers or as a project of its own; none without charge or file.

    ``file`` is named from the folder of this project where it lies in it. Without ``series`` and
    ``chemistry`` it has those of this pack, without ``ohm`` what is usual for its charge.
    """

    file: Annotated[
        str,
        about(
            "Project of the second pack",
            max_length=500,
            tip="Path of a project file, beside this one",
        ),
    ] = ""
    capacity_ah: (
        Annotated[float, about("Capacity", "Ah", gt=0, le=1e5, tip="Of the second pack")] | None
    ) = None
    ohm: (
        Annotated[
            float,
            about(
                "Resistance",
                "Ω",
                gt=0,
                le=1000,
                tip="Of the second pack, at its connector; by capacity where not given",
            ),
        ]
        | None
    ) = None
    series: (
        Annotated[
            int,
            about(
                "In series", ge=1, le=400, tip="Of the second pack; as this pack where not given"
            ),
        ]
        | None
    ) = None
    chemistry: (
        Annotated[
            PartId, about("Chemistry", tip="Id of its chemistry; as this pack where not given")
        ]
        | None
    ) = None
    at: Annotated[
        Charged,
        about("Its charge", "%", also="state of charge SoC", tip="How full the second pack is"),
    ] = 1.0
    own_at: Annotated[
        Charged,
        about("Charge of this pack", "%", also="state of charge SoC", tip="How full this pack is"),
    ] = 1.0
    by: Annotated[By, about("Joined", tip="Straight, by a switch, by diodes, or one at a time")] = (
        "direct"
    )
    port: Annotated[
        Port,
        about("The second is joined by its", also="socket", tip="Which port of the second pack"),
    ] = "discharge"
    own_port: Annotated[
        Port, about("This pack is joined by its", also="socket", tip="Which port of this pack")
    ] = "discharge"
    more: Annotated[
        tuple[MorePack, ...], about("More packs", max_length=MOST_MORE, tip="A third and a fourth")
    ] = ()
    between_ohm: Annotated[
        float,
        about(
            "Leads between them",
            "Ω",
            ge=0,
            le=10,
            tip="Resistance of leads and connectors between them",
        ),
    ] = 0.0
    current_a: (
        Annotated[
            float,
            about(
                "Both drive",
                "A",
                gt=0,
                le=1e4,
                tip="What both feed together; the need's where not given",
            ),
        ]
        | None
    ) = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.file and self.capacity_ah is not None:
            raise Unfit(
                "capacity_ah", "its project says that; accepted: a project, or a few numbers"
            )
