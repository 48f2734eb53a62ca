"""Who writes: a hand's habits, and the hands that ship with the product (invented people)."""

import dataclasses

from gray_quill.core.quantities import choice, number, text


@dataclasses.dataclass(frozen=True)
class Hand:
    name: str = text("A hand", "Name", "What the hand is called", 60)
    side: str = choice("right", ("left", "right"), "Writing hand", "Which hand holds the pen")
    letters: str = choice("script", ("script", "plain"), "Letters", "Joined script or plain separate letters")
    x_height_mm: float = number(2.6, 0.8, 20, 0.1, "mm", "Letter height", "Height of a small x")
    slant_deg: float = number(6, -30, 45, 1, "deg", "Slant", "How far upright strokes lean to the right")
    wander_mm: float = number(0.25, 0, 3, 0.05, "mm", "Baseline wander", "How far the line strays up and down")
    speed_mm_s: float = number(30, 5, 300, 1, "mm/s", "Speed", "Mean speed of the nib on the page", knee=5)
    pause_ms: float = number(
        130, 20, 2000, 10, "ms", "Pause", "How long the pen is off the page between two strokes, travel apart", knee=20
    )
    tremor_mm: float = number(0.02, 0, 1, 0.005, "mm", "Tremor", "RMS amplitude of the 8 to 12 Hz tremor, each way")
    force: float = number(0.45, 0.05, 0.95, 0.01, "of full force", "Everyday force", "Mean force on the glass")
    force_swing: float = number(
        0.18, 0, 0.45, 0.01, "of full force", "Force swing", "How much heavier downstrokes are than upstrokes"
    )
    onset_ms: float = number(
        45, 0, 400, 5, "ms", "Onset", "How long a stroke takes from the first touch to its force", knee=10
    )
    lift_ms: float = number(60, 0, 400, 5, "ms", "Lift", "How long the force takes to fall as a stroke ends", knee=10)
    altitude_deg: float = number(55, 15, 90, 1, "deg", "Grip", "Angle between pen and page; 90 is upright")
    azimuth_deg: float = number(
        45,
        -180,
        180,
        1,
        "deg",
        "Pen points",
        "Where the pen's top points, from right towards the writer; mirrored for a left hand",
    )
    drift_deg: float = number(
        2, 0, 15, 0.1, "deg", "Grip drift", "How far the pen tips to and fro while it writes, as a mean of squares"
    )
    rest: str = choice(
        "below", ("below", "side", "above"), "Hand comes", "From below, from the side, or hooked above the line"
    )
    palm_mm: float = number(28, 10, 60, 1, "mm", "Palm", "Length of the patch the resting palm presses on the glass")


# Paces from memory: grown-up writing turns up or down about every 100 ms, at a nib's mean speed of 20 to 40 mm/s, and
# has the pen on the page for half to three quarters of the time; children and shaky hands take half as long again.
SHIPPED_HANDS: dict[str, Hand] = {
    "left-steep": Hand(
        "left hand, steep grip",
        "left",
        "plain",
        x_height_mm=2.1,
        slant_deg=-4,
        wander_mm=0.18,
        speed_mm_s=29,
        pause_ms=80,
        tremor_mm=0.012,
        force=0.34,
        force_swing=0.2,
        onset_ms=35,
        lift_ms=45,
        altitude_deg=72,
        azimuth_deg=50,
        rest="side",
        palm_mm=24,
    ),
    "left-hooked": Hand(
        "left hand, hooked",
        "left",
        "script",
        x_height_mm=2.4,
        slant_deg=3,
        wander_mm=0.24,
        speed_mm_s=28,
        pause_ms=180,
        tremor_mm=0.02,
        force=0.5,
        force_swing=0.16,
        altitude_deg=48,
        azimuth_deg=-52,
        rest="above",
        palm_mm=30,
    ),
    "right-firm": Hand(
        "right hand, firm",
        "right",
        "script",
        x_height_mm=2.7,
        slant_deg=8,
        wander_mm=0.22,
        speed_mm_s=33,
        pause_ms=160,
        tremor_mm=0.025,
        force=0.62,
        force_swing=0.2,
        altitude_deg=52,
        azimuth_deg=40,
        rest="below",
        palm_mm=30,
    ),
    "right-shaky": Hand(
        "right hand, slow and shaky",
        "right",
        "plain",
        x_height_mm=3.8,
        slant_deg=1,
        wander_mm=0.45,
        speed_mm_s=21,
        pause_ms=260,
        tremor_mm=0.12,
        force=0.42,
        force_swing=0.14,
        onset_ms=80,
        lift_ms=110,
        altitude_deg=58,
        azimuth_deg=35,
        rest="below",
        palm_mm=26,
    ),
}


def hooked(hand: Hand) -> Hand:
    """The same hand writing from above its line, as many left hands do: the pen's top points away from the writer."""
    return dataclasses.replace(hand, name=f"{hand.side} hand, hooked", rest="above", azimuth_deg=-abs(hand.azimuth_deg))
