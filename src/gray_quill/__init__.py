"""Gray Quill: write once, then tune digital ink with evidence."""

import os

# Read as numpy is loaded. Matrices are small here: parted among threads they take longer, and answers have threads of
# their own.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.22.1"
