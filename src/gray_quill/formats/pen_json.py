"""Pen JSON: `gray-quill/pen@1` files in and out."""

import json

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.pen.recipe import Recipe, read_recipe, write_recipe

MOST_BYTES = 100_000


def read_pen(data: bytes) -> Recipe:
    """A recipe from a file's bytes."""
    if len(data) > MOST_BYTES:
        raise TooLarge("A pen file is a few kilobytes; this one is over 100. Choose a pen's JSON file.")
    try:
        return read_recipe(json.loads(data.decode("utf-8")))
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        raise FormatError(f"This is not a pen's JSON file ({error}).") from None


def write_pen(recipe: Recipe) -> bytes:
    """The recipe as an indented JSON file."""
    return (json.dumps(write_recipe(recipe), indent=1, ensure_ascii=False) + "\n").encode()
