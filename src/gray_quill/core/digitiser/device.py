"""What is written on: a digitiser and a panel, and the devices that ship with the product (all invented)."""

import dataclasses

from gray_quill.core.quantities import choice, flag, integer, number, text


@dataclasses.dataclass(frozen=True)
class Digitiser:
    report_hz: float = number(240, 20, 2000, 1, "reports/s", "Report rate", "Pen positions reported a second")
    levels: int = integer(4096, 2, 65536, "levels", "Force levels", "Distinct force values")
    activation: float = number(0.01, 0, 0.3, 0.001, "of full force", "Activation", "Force under this is not noticed")
    noise_mm: float = number(0.01, 0, 1, 0.001, "mm", "Noise", "RMS error of a reported position, each way")
    clock_jitter: float = number(
        0.03, 0, 0.5, 0.01, "of an interval", "Clock jitter", "Unevenness of the reports in time"
    )
    dropped: float = number(0, 0, 0.3, 0.001, "of reports", "Dropped", "Share of reports that never arrive")
    transport_ms: float = number(4, 0, 200, 0.1, "ms", "Transport", "From the glass to the system")
    tilt: bool = flag(True, "Tilt", "Whether it reports how the pen leans")
    hover: bool = flag(True, "Hover", "Whether it sees the pen above the glass")
    wave_mm: float = number(0, 0, 2, 0.01, "mm", "Wave", "How far it errs to either side with the place on its grid")
    wave_period_mm: float = number(6, 1, 40, 0.1, "mm", "Wave's period", "How long one wave of that error is")


TECHNOLOGIES = ("LCD", "OLED", "e-paper")


@dataclasses.dataclass(frozen=True)
class Panel:
    width_px: int = integer(1920, 100, 10000, "px", "Width", "Pixels across")
    height_px: int = integer(1200, 100, 10000, "px", "Height", "Pixels down")
    ppi: float = number(220, 50, 1000, 1, "px/inch", "Density", "Pixels an inch")
    refresh_hz: float = number(60, 1, 360, 1, "Hz", "Refresh", "Full pictures a second")
    greys: int = integer(256, 2, 256, "greys", "Greys", "Distinct greys it can show")
    colour: bool = flag(True, "Colour", "Whether it shows colour")
    fast_pen: bool = flag(False, "Fast pen path", "E-ink: pen strokes appear at once in two tones")
    response_ms: float = number(
        8, 0, 1000, 1, "ms", "Response", "From a pixel's signal to its light; of e-paper its updates tell it"
    )
    fast_pen_hz: float = number(85, 1, 360, 1, "Hz", "Fast path rate", "How often the fast pen path may put ink down")
    catch_up_ms: float = number(
        0, 0, 5000, 10, "ms", "Catch-up", "E-ink: how long after the pen pauses all else follows"
    )
    technology: str = choice("LCD", TECHNOLOGIES, "Technology", "What makes its light: itself, or the room's")
    white_cd_m2: float = number(
        400,
        0,
        5000,
        1,
        "cd/m²",
        "White",
        "Light that its white makes of itself; of e-paper, by its front light",
        knee=1,
    )
    reflects: float = number(
        0.03,
        0,
        1,
        0.01,
        "",
        "Reflects",
        "Share of the room's light that comes back: from e-paper's white, else as glare",
    )
    contrast: float = number(
        1000, 1.5, 1_000_000, 0.5, ":1", "Contrast", "Its white over its black, without glare", knee=1
    )
    colour_ppi: float = number(
        0, 0, 1000, 1, "px/inch", "Density of colour", "E-ink: of the filter that makes its colours; 0 for every pixel"
    )
    vivid: float = number(1, 0, 1, 0.01, "", "Vivid", "E-ink: share of a colour's distance from grey its filter keeps")


def lit_as(kind: str, panel: Panel) -> Panel:
    """The panel with light of the sort its device's kind has, where it was kept with another."""
    if (panel.technology == "e-paper") == (kind == "e-paper"):
        return panel
    lit = Panel(technology="e-paper", white_cd_m2=0, reflects=0.4, contrast=12) if kind == "e-paper" else Panel()
    return dataclasses.replace(
        panel,
        technology=lit.technology,
        white_cd_m2=lit.white_cd_m2,
        reflects=lit.reflects,
        contrast=lit.contrast,
    )


@dataclasses.dataclass(frozen=True)
class System:
    """What lies between digitiser and panel."""

    handover_ms: float = number(4, 0, 200, 0.1, "ms", "Hand-over", "From the driver to the page, on the mean")
    handover_sd_ms: float = number(2, 0, 100, 0.1, "ms", "Hand-over jitter", "Standard deviation of the hand-over")
    draw_ms: float = number(2, 0, 200, 0.1, "ms", "Drawing", "Time to draw a plain pen's newest ink, on the mean")
    draw_sd_ms: float = number(1, 0, 100, 0.1, "ms", "Drawing jitter", "Standard deviation of the drawing")
    queued_frames: int = integer(1, 0, 5, "frames", "Queued frames", "Finished pictures that wait before one is shown")


@dataclasses.dataclass(frozen=True)
class Touch:
    """The layer of the glass that feels fingers and palms."""

    report_hz: float = number(120, 10, 1000, 1, "reports/s", "Touch rate", "Contacts reported a second")
    transport_ms: float = number(12, 0, 200, 0.1, "ms", "Touch delay", "From a landing to its report")
    least_mm: float = number(3, 0, 30, 0.1, "mm", "Smallest contact", "Contacts smaller than this are not felt")
    noise_mm: float = number(0.15, 0, 3, 0.01, "mm", "Touch noise", "RMS error of a contact's position, each way")
    size: bool = flag(True, "Contact size", "Whether it reports how large a contact is")
    size_noise: float = number(0.08, 0, 0.5, 0.01, "of the size", "Size noise", "RMS error of a contact's size")
    pen_first: bool = flag(False, "Pen first", "Whether it feels nothing new while it sees the pen")


@dataclasses.dataclass(frozen=True)
class Updates:
    """How an e-paper panel changes its picture; other panels change as their response says."""

    fast_ms: float = number(20, 1, 2000, 1, "ms", "Fast update", "How long ink of two tones takes to appear")
    grey_ms: float = number(260, 1, 3000, 1, "ms", "Grey update", "How long a part of the picture in greys takes")
    clear_ms: float = number(750, 1, 5000, 1, "ms", "Clearing", "How long the blink takes that takes ghosts away")
    fast_ghost: float = number(0.1, 0, 0.5, 0.005, "", "Ghost, fast", "Share of a change that a fast update leaves")
    grey_ghost: float = number(0.04, 0, 0.5, 0.005, "", "Ghost, grey", "Share of a change that a grey update leaves")
    quick_greys: int = integer(256, 2, 256, "greys", "Greys, grey update", "Greys it has; all others follow in full")
    full_ms: float = number(450, 1, 3000, 1, "ms", "Full update", "How long all greys take, as where a page is turned")
    full_ghost: float = number(0.015, 0, 0.5, 0.005, "", "Ghost, full", "Share of a change that a full update leaves")
    lighter: float = number(1.8, 1, 5, 0.1, "×", "Erasing leaves", "How much more stays where a pixel grows lighter")
    clears_after: int = integer(40, 0, 1000, "updates", "Clears after", "Grey updates until it clears; 0 for never")


@dataclasses.dataclass(frozen=True)
class Eyed:
    """What was found by eye, and its 95 % interval; None where it was not looked for, or could not be told."""

    value: float | None = number(None, 0, 100_000, 0.001, "", "Found", "What was found by eye", optional=True)
    low: float | None = number(None, 0, 100_000, 0.001, "", "At least", "Lower end of its interval", optional=True)
    high: float | None = number(None, 0, 100_000, 0.001, "", "At most", "Upper end of its interval", optional=True)


@dataclasses.dataclass(frozen=True)
class ByEye:
    """What its user saw on the screen itself. ppi: px an inch, by a card; greys: a number; lines, print and writing:
    mm, of print and writing the height of an x; ghost: a share; response: ms.
    """

    ppi: Eyed = Eyed()
    greys: Eyed = Eyed()
    lines: Eyed = Eyed()
    print: Eyed = Eyed()
    bold_print: Eyed = Eyed()
    writing: Eyed = Eyed()
    bold_writing: Eyed = Eyed()
    ghost: Eyed = Eyed()
    response: Eyed = Eyed()


@dataclasses.dataclass(frozen=True)
class Device:
    name: str = text("A device", "Name", "What the device is called", 60)
    kind: str = choice("tablet", ("tablet", "laptop", "e-paper"), "Kind", "What sort of device it is")
    digitiser: Digitiser = Digitiser()
    panel: Panel = Panel()
    system: System = System()
    touch: Touch = Touch()
    stated_ms: float = number(
        0, 0, 1000, 0.1, "ms", "Stated delay", "What its data sheet says of the pen's delay; 0 where it says nothing"
    )
    updates: Updates = Updates()
    by_eye: ByEye = ByEye()


def seen_after_ms(device: Device, fast: bool) -> float:
    """From a pixel's signal until its change is seen: half of an update of e-paper, on its fast path or in greys."""
    if device.panel.technology != "e-paper":
        return device.panel.response_ms
    return (device.updates.fast_ms if fast else device.updates.grey_ms) / 2


PAPER = ("e-paper", 0.0)  # no light of its own

# All invented; the delays, lights and contrasts are of the size that is common practice for such hardware, no source.
SHIPPED_DEVICES: dict[str, Device] = {
    "tablet-11": Device(
        "11-inch tablet",
        "tablet",
        Digitiser(240, 4096, 0.008, 0.006, 0.02, 0, 3),
        Panel(2388, 1668, 264, 120, response_ms=5, technology="OLED", white_cd_m2=600, contrast=200_000),
        System(2, 0.8, 1.2, 0.5, 1),
        Touch(120, 8, 3, 0.1, True, 0.06),
        stated_ms=9,
    ),
    "convertible-13": Device(
        "13-inch convertible",
        "laptop",
        Digitiser(240, 4096, 0.012, 0.012, 0.04, 0, 5),
        Panel(2880, 1920, 255, 60, response_ms=9, white_cd_m2=450, contrast=1300),
        System(5, 2.5, 2, 1, 2),
        Touch(100, 14, 4, 0.2, True, 0.1),
    ),
    "clamshell-11": Device(
        "11-inch clamshell",
        "laptop",
        Digitiser(120, 1024, 0.04, 0.06, 0.12, 0.02, 14, tilt=False, hover=False),
        Panel(1366, 768, 135, 60, response_ms=16, white_cd_m2=220, reflects=0.05, contrast=600),
        System(12, 7, 6, 4, 2),
        Touch(60, 24, 5, 0.4, False),
    ),
    "paper-slate-10": Device(
        "10-inch e-paper slate",
        "e-paper",
        Digitiser(200, 4096, 0.01, 0.015, 0.03, 0, 6),
        Panel(1404, 1872, 227, 4, 16, False, True, 9, 85, 1300, *PAPER, 0.42, 13),
        System(3, 1, 2, 1, 0),
        Touch(90, 20, 4, 0.2, True, 0.12, pen_first=True),
        stated_ms=21,
        updates=Updates(fast_ms=18),
    ),
    "paper-colour-10": Device(
        "10-inch colour e-paper",
        "e-paper",
        Digitiser(200, 4096, 0.012, 0.015, 0.03, 0, 7),
        Panel(1860, 2480, 300, 3, 16, True, True, 12, 85, 1500, *PAPER, 0.27, 9, colour_ppi=150, vivid=0.45),
        System(4, 1.5, 2, 1, 0),
        Touch(90, 22, 4, 0.2, True, 0.12, pen_first=True),
        updates=Updates(fast_ms=24, grey_ms=320, clear_ms=1100, quick_greys=8, full_ms=700, clears_after=30),
    ),
    "paper-pad-8": Device(
        "8-inch e-paper pad",
        "e-paper",
        Digitiser(150, 2048, 0.02, 0.025, 0.05, 0.002, 9),
        Panel(1404, 1872, 300, 4, 8, False, False, 120, 85, 1800, *PAPER, 0.38, 10),
        System(9, 4, 5, 3, 0),
        Touch(60, 35, 6, 0.5, True, 0.15),
        updates=Updates(grey_ms=240, clear_ms=900, grey_ghost=0.06, quick_greys=4, full_ms=620, clears_after=30),
    ),
}
