"""Covers for things that have no pattern."""

__version__ = "0.1.0"
