"""A judge's blind pairs as a file, to be judged elsewhere and laid beside others."""

import json

from gray_quill.core.errors import FormatError
from gray_quill.core.lineup.pairs import Answer, Pairs, PenJudged
from gray_quill.formats.plain_json import read_json

FORMAT = "gray-quill/pairs@1"
LONGEST_NAME = 40
MOST_ANSWERS = 400


def write_pairs(pairs: Pairs) -> bytes:
    told = {
        "format": FORMAT,
        "judge": pairs.judge,
        "sheet": pairs.sheet_id,
        "seed": pairs.seed,
        "pens": [vars(p) for p in pairs.pens],
        "answers": [[a.first, a.second, a.answer] for a in pairs.answers],
    }
    return json.dumps(told, indent=1).encode()


def read_pairs(data: bytes) -> Pairs:
    """Raises FormatError for what is no such file, or says what cannot be."""
    found = read_json(data)
    if not isinstance(found, dict) or found.get("format") != FORMAT:
        raise FormatError(f"This is no file of judged pairs: it would say {FORMAT!r}. Take one out of Blind pairs.")
    try:
        pens = [PenJudged(_text(p["pen_id"], 80), _whole(p["revision"], 1, 10**9)) for p in found["pens"]]
        count = len(pens)
        answers = [
            Answer(_whole(a, 0, count - 1), _whole(b, 0, count - 1), _whole(c, -1, 1)) for a, b, c in found["answers"]
        ]
        told = Pairs(
            _text(found["judge"], LONGEST_NAME).strip(),
            pens,
            _text(found["sheet"], 80),
            _whole(found["seed"], 0, 1_000_000),
            answers,
        )
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        raise FormatError(f"This file of judged pairs is spoilt ({type(error).__name__}). Take it out anew.") from None
    if count < 2 or len(set(pens)) < count or len(answers) > MOST_ANSWERS or not told.judge:
        raise FormatError(f"A judge has a name, two pens or more, and up to {MOST_ANSWERS} answers. Take it out anew.")
    return told


def _text(value: object, longest: int) -> str:
    if not isinstance(value, str) or len(value) > longest or not value.isprintable():
        raise ValueError("no name")
    return value


def _whole(value: object, low: int, high: int) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or not low <= value <= high:
        raise ValueError("no such number")
    return value
