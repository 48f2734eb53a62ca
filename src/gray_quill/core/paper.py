"""Sheets of paper: size, ruling, colour, page number, all in true millimetres.

Sizes: ISO 216:2007 (A series), ANSI/ASME Y14.1 letter and 11x17; 11x14 inch and the rulings are common practice.
"""

import dataclasses
import math
import re

from gray_quill.core.colour.srgb import hex_of, is_dark, rgb
from gray_quill.core.errors import unknown_choice
from gray_quill.core.quantities import choice, flag, integer, number, read_record, tint

SIZES_MM: dict[str, tuple[float, float]] = {
    "A3": (297, 420),
    "A4": (210, 297),
    "A5": (148, 210),
    "A6": (105, 148),
    "A7": (74, 105),
    "letter": (215.9, 279.4),
    "8.5x11": (215.9, 279.4),
    "11x14": (279.4, 355.6),
    "11x17": (279.4, 431.8),
}
RULINGS = ("blank", "ruled", "squared", "dotted", "staves", "isometric", "columns", "frames")
COLOURS = {"white": "#ffffff", "cream": "#fbf6e6", "grey": "#d9dad7", "dusk": "#2b3036", "black": "#101214"}
ORIENTATIONS = ("portrait", "landscape")
SMALLEST_MM, LARGEST_MM = 30.0, 1000.0  # sides of a sheet
LONGEST_MM = 5000.0  # of an endless one: a PDF page holds 14,400 units of 1/72 inch (ISO 32000-1:2008, annex C.2)
GROWS_AT_MM = 60.0  # of room left below what is written
MARGINS = ("left", "right", "both")
NUMBERS = ("none", "foot", "outer foot", "head")


@dataclasses.dataclass(frozen=True)
class Paper:
    """A sheet. width_mm and height_mm are as it lies on the desk, so landscape is wider than high."""

    width_mm: float = number(148, SMALLEST_MM, LARGEST_MM, 0.1, "mm", "Width", "Width of the sheet as it lies")
    height_mm: float = number(210, SMALLEST_MM, LONGEST_MM, 0.1, "mm", "Height", "Height of the sheet as it lies")
    ruling: str = choice("dotted", RULINGS, "Ruling", "What is printed on the sheet to guide the hand")
    spacing_mm: float = number(
        5, 1.5, 30, 0.001, "mm", "Spacing", "Distance from rule to rule, dot to dot or stave line to line"
    )
    weight_mm: float = number(0.2, 0.05, 1.5, 0.01, "mm", "Line weight", "Thickness of rules, diameter of dots")
    margin_mm: float = number(
        0, 0, 80, 0.01, "mm", "Margin line", "Distance of an upright margin line from the edge; 0 leaves it out"
    )
    colour: str = tint("#fffdf8", "Paper colour", "Colour of the sheet")
    rule_colour: str = tint("#c9c3b6", "Rule colour", "Colour of the ruling")
    margin_side: str = choice("left", MARGINS, "Margin line at", "Edge the margin line keeps to", needs="margin_mm")
    band_mm: float = number(
        0, 0, 300, 0.5, "mm", "Top band", "Free of ruling at the top; 0 for as much as stationery has"
    )
    columns: int = integer(
        1, 1, 12, "", "Columns", "Beside each other, of columns and frames", needs="ruling=columns,frames"
    )
    first_mm: float = number(
        0, 0, 300, 0.5, "mm", "First column", "Its width; 0 for as wide as the others", needs="ruling=columns"
    )
    numbered: str = choice(
        "none", NUMBERS, "Page number", "Where on the page it is printed, in the colour of the rules"
    )
    endless: bool = flag(False, "Endless", "Grows downward as you write near its foot")


@dataclasses.dataclass(frozen=True)
class NumberedPaper(Paper):
    """Paper of a certain page of a sheet, which is printed where the paper is numbered; 0 where it is not known."""

    page_number: int = 0


def grown(paper: Paper, foot_mm: float) -> Paper:
    """Endless paper with room below what ends at `foot_mm`, longer by whole spacings so that its ruling stays where it
    is; other paper, or paper with room enough, as it is.
    """
    if not paper.endless or foot_mm + GROWS_AT_MM <= paper.height_mm:
        return paper
    lacks = foot_mm + 2 * GROWS_AT_MM - paper.height_mm
    steps = math.ceil(lacks / paper.spacing_mm)
    steps = min(steps, math.floor((LONGEST_MM - paper.height_mm) / paper.spacing_mm))
    return dataclasses.replace(paper, height_mm=round(paper.height_mm + max(0, steps) * paper.spacing_mm, 3))


# Common practice, no source: wide 11/32 in, medium 9/32 in, narrow 1/4 in, margin line 1 1/4 in.
STATIONERY: dict[str, dict[str, object]] = {
    "blank": {"ruling": "blank"},
    "dotted": {"ruling": "dotted", "spacing_mm": 5, "weight_mm": 0.4},
    "squared": {"ruling": "squared", "spacing_mm": 5, "weight_mm": 0.12},
    "ruled": {"ruling": "ruled", "spacing_mm": 7, "weight_mm": 0.15},
    "wide ruled": {"ruling": "ruled", "spacing_mm": 8.731, "weight_mm": 0.15, "margin_mm": 31.75},
    "medium ruled": {"ruling": "ruled", "spacing_mm": 7.144, "weight_mm": 0.15, "margin_mm": 31.75},
    "narrow ruled": {"ruling": "ruled", "spacing_mm": 6.35, "weight_mm": 0.15, "margin_mm": 31.75},
    "fine squared": {"ruling": "squared", "spacing_mm": 2.5, "weight_mm": 0.1},
    "wide dotted": {"ruling": "dotted", "spacing_mm": 7, "weight_mm": 0.4},
    "staves": {"ruling": "staves", "spacing_mm": 2, "weight_mm": 0.15},
    "isometric": {"ruling": "isometric", "spacing_mm": 5, "weight_mm": 0.1},
    "columns": {"ruling": "columns", "spacing_mm": 8, "weight_mm": 0.15, "columns": 3},
    "day hours": {
        "ruling": "columns",
        "spacing_mm": 11,
        "weight_mm": 0.15,
        "columns": 2,
        "first_mm": 16,
        "band_mm": 18,
    },
    "log table": {"ruling": "columns", "spacing_mm": 8, "weight_mm": 0.15, "columns": 5, "first_mm": 22, "band_mm": 16},
    "storyboard": {"ruling": "frames", "spacing_mm": 7, "weight_mm": 0.2, "columns": 2},
}
FIRST_WORDS = ("mm", "wide", "medium", "narrow", "fine", "day", "log")  # of names of two words, and a unit


def paper_from_spec(spec: str) -> Paper:
    """A sheet from plain words in any order: "dotted A5", "ruled 7mm A4 landscape cream", "blank 120x80 #f4f1e8".

    A ruling (see STATIONERY), a size or WIDTHxHEIGHT in mm, a spacing with "mm", an orientation and a colour.
    """
    words = spec.split()
    size, fields = SIZES_MM["A5"], dict(STATIONERY["blank"])
    landscape, sheet_colour, spacing = False, "", 0.0
    sizes = {name.lower(): mm for name, mm in SIZES_MM.items()}
    for position, word in enumerate(words):
        low = word.lower().rstrip(",")
        pair = f"{words[position - 1].lower()} {low}" if position else ""
        custom = re.fullmatch(r"(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)", low)
        if low in sizes:
            size = sizes[low]
        elif custom:
            size = (float(custom[1]), float(custom[2]))
        elif pair in STATIONERY:
            fields = dict(STATIONERY[pair])
        elif low in STATIONERY:
            fields = dict(STATIONERY[low])
        elif low in ORIENTATIONS:
            landscape = low == "landscape"
        elif low in COLOURS:
            sheet_colour = COLOURS[low]
        elif re.fullmatch(r"#[0-9a-f]{6}", low):
            sheet_colour = low
        elif re.fullmatch(r"\d+(\.\d+)?mm", low) or (
            re.fullmatch(r"\d+(\.\d+)?", low) and words[position + 1 : position + 2] == ["mm"]
        ):
            spacing = float(low.removesuffix("mm"))
        elif low not in FIRST_WORDS:
            known = [*SIZES_MM, *STATIONERY, *ORIENTATIONS, *COLOURS]
            raise unknown_choice("The paper word", word, known, "paper")
    fields |= {"width_mm": max(size) if landscape else size[0], "height_mm": min(size) if landscape else size[1]}
    if spacing:
        fields["spacing_mm"] = spacing
    if sheet_colour:
        fields |= {"colour": sheet_colour, "rule_colour": rule_colour_for(sheet_colour)}
    return read_record(Paper, fields, "paper.")


def first_paper() -> Paper:
    """What a first sheet is."""
    return paper_from_spec("dotted A5")


def rule_colour_for(hex_colour: str) -> str:
    """A ruling a quarter of the way from the sheet's colour towards black, or white on dark sheets."""
    target = 255 if is_dark(hex_colour) else 0
    return hex_of(c * 0.76 + target * 0.24 for c in rgb(hex_colour))


def describe_paper(paper: Paper) -> str:
    """The sheet in the sentence's words: "dotted A5", "ruled 7 mm A4 landscape black"; the plain colour goes unsaid."""
    short, long = sorted((paper.width_mm, paper.height_mm))
    size = next(
        (n for n, mm in SIZES_MM.items() if abs(mm[0] - short) < 0.05 and abs(mm[1] - long) < 0.05),
        f"{paper.width_mm:g} x {paper.height_mm:g} mm",
    )
    if paper.endless:
        size = f"{paper.width_mm:g} mm endless"
    spacing = f" {paper.spacing_mm:g} mm" if paper.ruling in ("ruled", "squared") else ""
    colour = next((name for name, hexed in COLOURS.items() if hexed == paper.colour.lower()), "of its own colour")
    tail = "" if paper.colour.lower() == Paper().colour else f" {colour}"
    return (
        f"{paper.ruling}{spacing} {size}"
        + (" landscape" if paper.width_mm > paper.height_mm and not paper.endless else "")
        + tail
    )
