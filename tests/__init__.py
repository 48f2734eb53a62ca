"""Tests run side by side: what they call takes one thread for its own arithmetic."""

import os

import gray_quill  # before numpy, to which it says the same

os.environ.setdefault("OMP_NUM_THREADS", "1")

__all__ = ["gray_quill"]
