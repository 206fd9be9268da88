"""Arrays of whole numbers that a search counts with, and what stands in them for what cannot be."""

import numpy as np
from numpy.typing import NDArray

FAR = 2**29
"""What cannot be, and any cost over it; a few of it together still fit in 32 bits."""
NEVER = 1e12
"""What costs that much cannot be [minor, or mW]."""

Integers = NDArray[np.int32]
Counts = NDArray[np.int16]
"""So many of each box, a row a set."""
Places = NDArray[np.intp]
Flags = NDArray[np.bool_]
