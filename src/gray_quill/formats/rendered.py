"""What is drawn anew at each size it is asked for, by the process that reads files from outside: its whole is kept, so
that parts cut from it fit beside each other.
"""

from collections.abc import Sequence

from PIL import Image

MOST_WHOLE_PX = 24_000_000  # of a page that is rendered as a whole
Part = Sequence[float]  # left, top, right and bottom as shares of the page


class Rendered:
    """Pages that are rendered."""

    last: tuple[tuple[int, int, int], Image.Image] | None = None

    def rendered(self, page: int, part: Part, width: int, height: int) -> Image.Image:
        """A part of a page at this size in pixels."""
        raise NotImplementedError

    def drawn(self, page: int, part: Part, width: int, height: int) -> bytes:
        """The same as bytes, top row first."""
        left, top, right, bottom = part
        whole = round(width / (right - left)), round(height / (bottom - top))
        if whole[0] * whole[1] > MOST_WHOLE_PX:
            return self.rendered(page, part, width, height).tobytes()
        if self.last is None or self.last[0] != (page, *whole):
            self.last = None
            self.last = (page, *whole), self.rendered(page, (0, 0, 1, 1), *whole)
        x, y = round(left * whole[0]), round(top * whole[1])
        part_of = self.last[1] if whole == (width, height) else self.last[1].crop((x, y, x + width, y + height))
        return part_of.tobytes()
