"""Films as zips of PNG frames: in order, to the pixel, and refused when they are not what they claim to be."""

import io
import unittest
import zipfile

import numpy as np

from gray_quill.core.errors import FormatError, GrayQuillError, TooLarge
from gray_quill.formats.film_in import read_film_zip
from gray_quill.formats.film_zip import write_film
from gray_quill.formats.png import write_png


def zipped(*files: tuple[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files:
            archive.writestr(name, data)
    return out.getvalue()


class FilmZip(unittest.TestCase):
    def test_frames_come_back_in_order_to_the_pixel(self) -> None:
        frames = [np.random.default_rng(k).integers(0, 256, (20, 30)).astype(np.uint8) for k in range(12)]
        for got, frame in zip(read_film_zip(write_film(frames)), frames, strict=True):
            np.testing.assert_array_equal(got, frame)
        names = [f"f{k}.png" for k in (9, 10, 1, 2)]
        levels = [
            f[0, 0]
            for f in read_film_zip(
                zipped(
                    *[(n, write_png(np.full((4, 4), 10 * int(n[1:-4]), np.uint8))) for n in names], ("notes.txt", b"x")
                )
            )
        ]
        self.assertEqual(levels, [10, 20, 90, 100], "numbers by value, other files passed over")

    def test_what_is_no_film_is_refused(self) -> None:
        small, other = write_png(np.zeros((4, 4), np.uint8)), write_png(np.zeros((5, 4), np.uint8))
        many = zipped(*[(f"{k}.png", b"") for k in range(3001)])
        bomb = zipped(("1.png", b"\0" * 31_000_000))
        cases: tuple[tuple[bytes, type[GrayQuillError], str], ...] = (
            (b"not a zip", FormatError, "not a zip"),
            (zipped(("notes.txt", b"x")), FormatError, "no PNG frames"),
            (zipped(("1.png", small), ("2.png", other)), FormatError, "another size"),
            (zipped(("1.png", b"GIF89a")), FormatError, "not a PNG"),
            (many, TooLarge, "3001 frames"),
            (bomb, TooLarge, "30 MB a file"),
        )
        for data, error, why in cases:
            with self.assertRaisesRegex(error, why):
                read_film_zip(data)
