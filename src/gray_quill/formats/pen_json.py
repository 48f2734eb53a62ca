"""Pen JSON: `gray-quill/pen@1` files in and out."""

import json

from gray_quill.core.errors import TooLarge
from gray_quill.core.pen.recipe import Recipe, read_recipe, write_recipe
from gray_quill.formats.plain_json import read_json

MOST_BYTES = 100_000


def read_pen(data: bytes) -> Recipe:
    """A recipe from a file's bytes."""
    if len(data) > MOST_BYTES:
        raise TooLarge("A pen file is a few kilobytes; this one is over 100. Choose a pen's JSON file.")
    return read_recipe(read_json(data))


def write_pen(recipe: Recipe) -> bytes:
    """The recipe as an indented JSON file."""
    return (json.dumps(write_recipe(recipe), indent=1, ensure_ascii=False) + "\n").encode()
