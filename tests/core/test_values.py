"""Of the whole core, found by looking: values can't be changed behind anybody's back, and functions say what they do."""

from __future__ import annotations

import ast
import dataclasses
import importlib
import inspect
import pkgutil
import re
from collections.abc import Iterator
from pathlib import Path
from types import ModuleType

import ypsicline.core
from ypsicline.core.errors import Refusal

MODULES = [importlib.import_module(m.name) for m in pkgutil.walk_packages(ypsicline.core.__path__, "ypsicline.core.")]
# an exception is no value: raising it writes its trace on it
NO_VALUES = {Refusal}


def public_functions(module: ModuleType) -> Iterator[tuple[str, ast.FunctionDef, bool]]:
    """Functions that others may use, and the methods of such classes, with whether they are methods."""
    public = set(getattr(module, "__all__", ()))
    for node in ast.parse(Path(str(module.__file__)).read_text()).body:
        if isinstance(node, ast.FunctionDef) and node.name in public:
            yield node.name, node, False
        if isinstance(node, ast.ClassDef) and node.name in public:
            for inner in node.body:
                if isinstance(inner, ast.FunctionDef) and not inner.name.startswith("_"):
                    yield f"{node.name}.{inner.name}", inner, True


def test_every_value_is_frozen() -> None:
    values = {
        c
        for m in MODULES
        for c in vars(m).values()
        if inspect.isclass(c) and c.__module__ == m.__name__ and dataclasses.is_dataclass(c)
    }
    assert len(values) > 150
    thawed = {c.__qualname__ for c in values - NO_VALUES if not c.__dataclass_params__.frozen}  # type: ignore[attr-defined]
    assert thawed == set()


def test_public_functions_say_what_they_do_and_what_they_raise() -> None:
    silent, raising, seen = [], [], 0
    for module in MODULES:
        for name, node, is_method in public_functions(module):
            seen += 1
            told = ast.get_docstring(node) or ""
            # a method that another class or a protocol tells of needn't say it again
            if not told and not is_method:
                silent.append(f"{module.__name__}.{name}")
            raises = any(isinstance(n, ast.Raise) and n.exc for n in ast.walk(node))
            if told and raises and not re.search("[Rr]aise|[Rr]efuse", told):
                raising.append(f"{module.__name__}.{name}")
    assert seen > 500
    assert (silent, raising) == ([], [])
