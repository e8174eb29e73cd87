"""Instruments at the bench that say a command otherwise than most."""

from typing import Annotated, Literal

from lumvak.core.record import Document, PartId, Unfit, about
from lumvak.core.said import phrase

Meant = Literal[
    "meter.volts", "meter.range", "source.volts", "source.amps", "source.protect",
    "source.read_volts", "source.read_amps", "supply.turn", "supply.is_on", "load.turn",
    "load.is_on", "thermometer.celsius", "bms.volts",
]  # fmt: skip
# What most instruments say; ``{}`` stands for a value, ON or OFF, or a channel.
USUAL_WORDS: dict[str, str] = {
    "meter.volts": "MEASure:VOLTage:DC?",
    "meter.range": "SENSe:VOLTage:DC:RANGe?",
    "source.volts": "SOURce:VOLTage {}",
    "source.amps": "SOURce:CURRent {}",
    "source.protect": "VOLTage:PROTection {}",
    "source.read_volts": "MEASure:VOLTage?",
    "source.read_amps": "MEASure:CURRent?",
    "supply.turn": "OUTPut {}",
    "supply.is_on": "OUTPut?",
    "load.turn": "INPut {}",
    "load.is_on": "INPut?",
    "thermometer.celsius": "MEASure:TEMPerature? (@{})",
    "bms.volts": "MEASure:VOLTage? (@{})",
}


class InstrumentWord(Document, frozen=True):
    """A command: what is ``meant``, and how the instrument ``says`` it."""

    meant: Annotated[Meant, about("Meant", tip="What the command is for")]
    says: Annotated[
        str, about("Command", min_length=1, max_length=120, tip="As the instrument takes it")
    ]


class BenchInstrument(Document, frozen=True, kw_only=True):
    """An instrument known by a piece of what it says to ``*IDN?``.

    ``volt_share`` and ``amp_share`` are standard deviations of what it is off by, as shares of a
    reading, where its sheet says.
    """

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    idn: Annotated[
        str,
        about("Says of itself", min_length=1, max_length=120, tip="A piece of its answer to *IDN?"),
    ]
    words: Annotated[
        tuple[InstrumentWord, ...],
        about("Commands", max_length=40, tip="Where it speaks otherwise than SCPI"),
    ] = ()
    volt_share: (
        Annotated[float, about("Voltage error", ge=0, le=0.1, tip="Share of the reading")] | None
    ) = None
    amp_share: (
        Annotated[float, about("Current error", ge=0, le=0.1, tip="Share of the reading")] | None
    ) = None
    note: Annotated[str, about("Note", tip="Free text")] = ""
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where a command has places that its values do not fill."""
        for word in self.words:
            wants = USUAL_WORDS[word.meant].count("{}")
            if word.says.count("{}") != wants or word.says.count("{") != wants:
                raise Unfit(
                    "words",
                    phrase("“{}” must have {} of the places {}", word.says, wants, "{}"),
                )
