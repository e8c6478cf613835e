"""Accuracy and time, measured; never part of the tests."""

import ypsicline  # noqa: F401 - sets how many threads NumPy computes with, before it is imported
