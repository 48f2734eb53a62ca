"""Typefaces that PDFs carry: the product's own, and for letters they lack those of this machine, each embedded as far
as it is used. Joined and right-to-left scripts are set letter by letter in the order they are written in the file.
"""

import contextlib
import itertools
import logging
import pathlib
import sys
from functools import lru_cache
from typing import Any
from xml.sax.saxutils import escape

from reportlab import rl_config
from reportlab.pdfbase.pdfmetrics import getFont, registerFont, stringWidth
from reportlab.pdfbase.ttfonts import TTFError, TTFont, TTFontFile

REGULAR, ITALIC, BOLD = "Literata", "Literata-Italic", "Literata-Bold"
HERE = pathlib.Path(__file__).parent / "faces"
FILES = {REGULAR: "literata-regular.ttf", ITALIC: "literata-italic.ttf", BOLD: "literata-bold.ttf"}
FOLDERS = {
    "linux": ("/usr/share/fonts", "/usr/local/share/fonts", "~/.local/share/fonts", "~/.fonts"),
    "darwin": ("/System/Library/Fonts", "/Library/Fonts", "~/Library/Fonts"),
    "win32": ("C:/Windows/Fonts",),
}
NO_FACE = "Letters that neither this program nor the machine it ran on has a typeface for are said by their numbers."
MOST_FILES = 600  # of this machine's that are looked into
LARGEST_BYTES = 40_000_000

rl_config.canvas_basefontname = REGULAR  # so that no file names a face it does not carry
for _name, _file in FILES.items():
    registerFont(TTFont(_name, HERE / _file))


def runs(words: str, face: str = REGULAR) -> list[tuple[str, str]]:
    """Faces and the words set in each; a letter that no face here has is said by its number, like U+4E2D."""
    parts: list[tuple[str, str]] = []
    for letter in words:
        if letter in "\n\t\r":
            letter = " "
        if _has(face, letter):
            parts.append((face, letter))
        elif letter.isprintable():
            other = _elsewhere(letter)
            parts.append((other, letter) if other else (face, f"U+{ord(letter):04X} "))
    return [(name, "".join(text for _, text in group)) for name, group in itertools.groupby(parts, lambda p: p[0])]


def without_face(words: str, face: str = REGULAR) -> bool:
    """Whether some letters can only be said by their numbers."""
    return any(c.isprintable() and not _has(face, c) and not _elsewhere(c) for c in words)


def marked_up(words: str, face: str = REGULAR) -> str:
    """Words for a paragraph, other faces named where they are needed."""
    said = [(name, escape(text)) for name, text in runs(words, face)]
    return "".join(text if name == face else f'<font name="{name}">{text}</font>' for name, text in said)


def draw(canvas: Any, x: float, y: float, words: str, face: str, size: float) -> None:
    """Draw words on a canvas, pt."""
    for name, text in runs(words, face):
        canvas.setFont(name, size)
        canvas.drawString(x, y, text)
        x += stringWidth(text, name, size)


@lru_cache(maxsize=4096)
def _has(face: str, letter: str) -> bool:
    return ord(letter) in _letters(face)


@lru_cache(maxsize=64)
def _letters(face: str) -> frozenset[int]:
    font: Any = getFont(face)
    return frozenset(font.face.charToGlyph)


@lru_cache(maxsize=4096)
def _elsewhere(letter: str) -> str:
    """The name of a face of this machine that has a letter; "" where there is none."""
    for path, letters in _machine():
        if ord(letter) in letters:
            name = f"on-this-machine-{path}"
            with contextlib.suppress(TTFError, OSError, ValueError, KeyError, IndexError):  # another may do
                registerFont(TTFont(name, path))
                return name
    return ""


@lru_cache(maxsize=1)
def _machine() -> list[tuple[str, frozenset[int]]]:
    """Faces of this machine that can be embedded, and the letters each has; looked for when one is first wanted."""
    found = []
    for folder in FOLDERS.get(sys.platform, FOLDERS["linux"]):
        try:
            paths = sorted(pathlib.Path(folder).expanduser().rglob("*.tt[fc]"))[:MOST_FILES]
        except OSError:
            continue
        for path in paths:
            try:
                if path.stat().st_size <= LARGEST_BYTES:
                    face = TTFontFile(str(path), charInfo=1)
                    found.append((str(path), frozenset(face.charToGlyph)))
            except (TTFError, OSError, ValueError, KeyError, IndexError) as error:
                logging.getLogger("gray_quill").debug("%s cannot be embedded: %s", path, error)
    return found
