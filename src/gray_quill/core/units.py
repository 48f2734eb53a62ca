"""Lengths and densities. Page coordinates are millimetres, origin top-left, y down."""

MM_PER_INCH = 25.4
POINTS_PER_INCH = 72.0  # ISO 32000 default user space


def px_per_mm(ppi: float) -> float:
    """Pixels in a millimetre at `ppi` pixels in an inch."""
    return ppi / MM_PER_INCH


def mm_to_pt(mm: float) -> float:
    """Millimetres to PDF points (1/72 inch)."""
    return mm * POINTS_PER_INCH / MM_PER_INCH


# What a unit on a screen means, for who meets it first.
UNIT_WORDS: dict[str, str] = {
    "mm": "A millimetre on the page, true on a screen that was sized.",
    "ms": "A thousandth of a second; a blink takes a hundred or more.",
    "mm/s": "Millimetres a second, of the nib; everyday writing goes at 40 to 80.",
    "mm a mm": "How many millimetres the width changes over a millimetre of path.",
    "%": "Hundredths of the whole.",
    "×": "How many times one is the other.",
    ":1": "How much lighter the lighter of two colours is, by WCAG; 1 is alike, 21 black on white.",
    "of full force": "0 is no force, 1 the most the pen's sensor tells.",
    "of the middle width": "1 is as wide as the middle of the stroke, 0 a needle.",
    "deg": "Degrees of an angle; a right angle has 90.",
    "px": "A picture element of the panel.",
}
