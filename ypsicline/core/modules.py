"""Packages in which every module adds something of one kind, found by looking."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules
from types import ModuleType

__all__ = ["modules_of"]


def modules_of(package: str) -> tuple[ModuleType, ...]:
    """The modules of a package, in the order of their names, imported."""
    parent = import_module(package)
    return tuple(import_module(f"{package}.{m.name}") for m in iter_modules(parent.__path__))
