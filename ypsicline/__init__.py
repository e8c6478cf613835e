"""Covers for things that have no pattern."""

import os

__version__ = "0.1.0"

# our matrices are small: threads of OpenBLAS only wait for each other, hundreds of times as long as they compute where other
# processes have the cores, and each reserves memory of its own. To be set before NumPy is imported.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
