"""What arrays hold."""

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
