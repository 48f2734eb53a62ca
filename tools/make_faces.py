"""Makes the typefaces that PDFs carry, src/gray_quill/formats/faces/*.ttf, of the screens' own variable ones: a fixed
weight each, with the letters of all their scripts in one file. Needs web/node_modules and the development packages.
"""

import pathlib
import tempfile

from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = pathlib.Path(__file__).resolve().parents[1]
FILES = ROOT / "web/node_modules/@fontsource-variable/literata/files"
OUT = ROOT / "src/gray_quill/formats/faces"
SCRIPTS = ("latin", "latin-ext", "vietnamese", "greek", "greek-ext", "cyrillic", "cyrillic-ext")
FACES = {"regular": ("normal", 400), "italic": ("italic", 400), "bold": ("normal", 650)}
NOT_NEEDED = ("GSUB", "GPOS", "GDEF", "STAT", "HVAR", "MVAR", "avar", "meta", "DSIG")


def fixed(script: str, style: str, weight: int, into: pathlib.Path) -> str:
    font = TTFont(FILES / f"literata-{script}-wght-{style}.woff2")
    font.flavor = None
    instantiateVariableFont(font, {a.axisTag: weight if a.axisTag == "wght" else None for a in font["fvar"].axes}, True)
    for table in NOT_NEEDED:
        if table in font:
            del font[table]
    path = into / f"{script}.ttf"
    font.save(path)
    return str(path)


def main() -> None:
    OUT.mkdir(exist_ok=True)
    for name, (style, weight) in FACES.items():
        with tempfile.TemporaryDirectory() as kept:
            font = Merger().merge([fixed(s, style, weight, pathlib.Path(kept)) for s in SCRIPTS])
            font["head"].modified = font["head"].created  # the same files make the same bytes
            font.recalcTimestamp = False
            font.save(OUT / f"literata-{name}.ttf")
        print(name, (OUT / f"literata-{name}.ttf").stat().st_size)


if __name__ == "__main__":
    main()
