"""Accuracy and time, measured; never part of the tests."""
