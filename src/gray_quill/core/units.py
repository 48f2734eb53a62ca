"""Lengths and densities. Page coordinates are millimetres, origin top-left, y down."""

MM_PER_INCH = 25.4
POINTS_PER_INCH = 72.0  # ISO 32000 default user space


def px_per_mm(ppi: float) -> float:
    """Pixels in a millimetre at `ppi` pixels in an inch."""
    return ppi / MM_PER_INCH


def mm_to_pt(mm: float) -> float:
    """Millimetres to PDF points (1/72 inch)."""
    return mm * POINTS_PER_INCH / MM_PER_INCH
