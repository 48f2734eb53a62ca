"""What is known of one number that is measured: declared once, beside the record that holds it.

The words on screens, in the docs and on the command line are made from it (`in_words`, `readings_of`;
web/src/lib/readings.ts says numbers in the same way).
"""

import dataclasses
from decimal import ROUND_HALF_UP, Decimal
from typing import Any

BETTER = ("more", "less", "")  # which way a reading is better; "" where that is for the writer to say
SHARE = "%"  # of shares 0..1, said in percent


@dataclasses.dataclass(frozen=True)
class Reading:
    """digits: decimals said, None for as many as the size deserves. attention: the bound from which the reading
    deserves attention, on its worse side; None where there is none. of_the_hand: no pen can change it.
    """

    label: str
    unit: str
    help: str
    digits: int | None = None
    better: str = ""
    attention: float | None = None
    of_the_hand: bool = False

    def calls_for_attention(self, value: float | None) -> bool:
        """Whether a value lies beyond the bound."""
        if self.attention is None or value is None:
            return False
        return value < self.attention if self.better == "more" else value > self.attention


def reading(label: str, unit: str, help: str, **more: Any) -> Any:
    """A field of a frozen record with what is known of it; `more` as in Reading."""
    return declared(Reading(label, unit, help, **more))


def declared(known: Reading) -> Any:
    """A field with a reading that other records hold too."""
    return dataclasses.field(metadata={"reading": known})


def readings_of(record: type) -> dict[str, Reading]:
    """The declared readings of a record class by field name; other fields are left out."""
    found = {f.name: f.metadata.get("reading") for f in dataclasses.fields(record)}
    return {name: r for name, r in found.items() if r is not None}


def in_words(known: Reading, value: float | None) -> str:
    """A value with its unit: "0.52 mm", "4.5 %", "×3.10", "4.50:1"; a dash for what could not be measured."""
    if value is None:
        return "–"
    if known.unit == SHARE:
        return percent(value)
    number = said(value) if known.digits is None else fixed(value, known.digits)
    if known.unit == "×":
        return f"×{number}"
    return f"{number}{known.unit}" if known.unit.startswith(":") else f"{number} {known.unit}".rstrip()


def said(value: float) -> str:
    """A number with as many digits as its size deserves: three significant, at most two decimals, three under a
    tenth.
    """
    size = abs(value)
    digits = 0 if size >= 100 else 1 if size >= 10 else 2 if size >= 0.1 or size == 0 else 3
    return fixed(value, digits)


def fixed(value: float, digits: int) -> str:
    """A number with so many decimals, halves away from zero as browsers round them (ECMA-262, toFixed)."""
    return f"{Decimal(value).quantize(Decimal(1).scaleb(-digits), ROUND_HALF_UP):f}"


def percent(share: float) -> str:
    """A share 0..1 in percent, with a decimal under ten."""
    return f"{fixed(share * 100, 1 if 0 < share < 0.1 else 0)} %"
