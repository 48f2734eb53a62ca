"""What arrays hold, and what kernels take."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]


def plain(values: ArrayLike) -> Floats:
    """Values as kernels are compiled for: one after another, and writable. For each other kind of array, and each
    whole number where a fraction is meant, a kernel is compiled anew, which takes seconds.
    """
    return np.require(values, np.float64, ("C", "W"))
