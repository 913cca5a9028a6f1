"""Zesty Grid: plan, weigh, dye, read, fade and compare natural dye test grids."""

import os

# The matrices here are small, and photos are read cell by cell in threads of their own: threads of
# the matrix library would only wait for one another. Takes effect before NumPy is first imported.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.1.0"
