"""What one mostly writes, and the paper and the pens at hand that a first desk starts with."""

import dataclasses

from gray_quill.core.errors import unknown_choice


@dataclasses.dataclass(frozen=True)
class Use:
    """paper: in plain words, as paper_from_spec reads them. pens: the roll, shipped pens by id, the first in hand."""

    name: str
    help: str
    paper: str
    pens: tuple[str, ...]


USES = (
    Use(
        "quick notes",
        "lectures and meetings",
        "ruled 7mm A5",
        ("fen-fountain", "reed-ballpoint", "needle-liner", "survey-marker", "moth-pencil-2b", "dusk-wash", "fern-wash"),
    ),
    Use(
        "neat notes",
        "fair copies, journals",
        "dotted A5",
        ("fen-fountain", "sedge-nib", "reed-ballpoint", "needle-liner", "moth-pencil-2b", "dusk-wash", "mallow-wash"),
    ),
    Use(
        "sketch-notes",
        "words with drawings",
        "blank A4 landscape",
        (
            "moth-pencil-2b",
            "needle-liner",
            "fen-fountain",
            "heron-brush",
            "survey-marker",
            "alder-charcoal",
            "mist-spray",
            "fern-wash",
            "pool-wash",
        ),
    ),
    Use(
        "marking up",
        "printed pages, drafts",
        "blank A4",
        ("dusk-wash", "fern-wash", "mallow-wash", "pool-wash", "survey-marker", "reed-ballpoint", "needle-liner"),
    ),
)


def use_called(name: str) -> Use:
    """The use by this name. Raises RecordError."""
    for use in USES:
        if use.name == name:
            return use
    raise unknown_choice("The use", name, [use.name for use in USES], "use")
