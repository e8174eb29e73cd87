"""The pack of an evaluation as trouble needs it, and its readings."""

from __future__ import annotations

from msgspec.structs import replace

from lumvak.core.cells.cell_model import charge_limit_a
from lumvak.core.document.afterwards.trouble import FaultReading
from lumvak.core.evaluation import Evaluation
from lumvak.core.proving.measured import counted
from lumvak.core.trouble.case import TroubleCase, case_of
from lumvak.core.trouble.diagnosis import Diagnosis, diagnosed
from lumvak.core.trouble.readings import TroubleReading, Value, has_place

# Fuse, leads with their connector, and BMS: parts of the path.
PARTS_OF_PATH = 3
# What was read before the trouble came weighs so much.
DOUBTED = 0.3


def case_of_project(evaluation: Evaluation) -> TroubleCase:
    """The pack of a project: its counts, resistances, load, and where its BMS opens."""
    sized, modelled, board = evaluation.sized, evaluation.run.pack, evaluation.power.board
    choice, network = sized.choice, evaluation.laid_out.network
    chemistry = sized.parts.chemistry_of(choice.cell)
    plain = case_of(choice.series, chemistry)
    behaviour = modelled.behaviour
    joints = max(choice.series - 1, 1)
    ohm = plain.joint_ohm if network is None else network.joint_ohm.number / joints
    wire = sized.wire.ohm.number
    wanted = evaluation.project.trouble
    meter = evaluation.project.hand.meter
    return replace(
        plain,
        full_v=choice.cell.voltage_full_v,
        empty_v=max(plain.empty_v, choice.cell.voltage_empty_v),
        group_ohm=behaviour.steady_ohm / choice.parallel,
        joint_ohm=max(ohm, 1e-6),
        part_ohm=max(wire / PARTS_OF_PATH, 1e-6),
        load_a=max(sized.pack.current.number, 0.1),
        trip_a=plain.trip_a if board is None else board.stages[0].current_a,
        charge_a=choice.parallel * charge_limit_a(choice.cell) * 0.3,
        shows=wanted.shows,
        meter=replace(plain.meter, share=meter.percent, digits=meter.digits),
    )


def as_trouble_reading(reading: FaultReading) -> TroubleReading:
    """A reading of the document as what ranks the causes."""
    value: Value
    if reading.row:
        value = reading.row
    elif reading.word is not None:
        value = reading.word
    else:
        assert reading.value is not None
        value = reading.value
    return TroubleReading(
        reading.place,
        reading.state,
        reading.amount,
        value=value,
        in_ohm=reading.in_ohm,
        weight=reading.weight,
    )


def diagnosis_of(evaluation: Evaluation) -> Diagnosis | None:
    """What is found of the pack of a project; ``None`` without a complaint."""
    wanted = evaluation.project.trouble
    if wanted.complaint is None:
        return None
    case = case_of_project(evaluation)
    series = case.series
    readings = [as_trouble_reading(it) for it in wanted.readings if fits(it, series)]
    return diagnosed(case, wanted.complaint, readings, wanted.without)


def fits(reading: FaultReading, series: int) -> bool:
    """Whether a pack of so many groups has the place of a reading."""
    return has_place(reading.place, series) and len(reading.row) in (0, series)


def known_readings(evaluation: Evaluation) -> tuple[FaultReading, ...]:
    """What other stages have read of this pack already, with its dates; it was not so ill then.

    Groups of the tests, and running totals of the balance leads. They are doubted: the trouble may
    have come since.
    """
    project, series = evaluation.project, evaluation.sized.choice.series
    made = []
    row, taken = {}, ""
    for it in counted(project.proving, "groups"):
        if it.what == "volts" and it.place.startswith("group:"):
            row[int(it.place.partition(":")[2])] = it.value
            taken = it.taken or taken
    if set(row) == set(range(1, series + 1)):
        volts = tuple(row[group] for group in range(1, series + 1))
        made.append(
            FaultReading(place="groups", row=volts, weight=DOUBTED, taken=taken[:19] or None)
        )
    for total in project.balance_leads.totals:
        if total.volts is not None and 0 < total.lead <= series:
            made.append(FaultReading(place=f"tap:{total.lead}", value=total.volts, weight=DOUBTED))
    return tuple(it for it in made if it not in project.trouble.readings)
