"""A kind of feature, a finish, a family of covers and a rule of checking are one module each: put beside the others, they are read,
drafted, stored and shown."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

HERE = Path(__file__).parents[1]


@pytest.mark.parametrize(
    ("script", "beside", "says"),
    [
        ("try_loop.py", {"ypsicline.core.pattern.features": "features"}, "a loop is a feature\n"),
        ("try_finish.py", {"ypsicline.core.pattern.finishes": "finishes"}, "a pinked edge is a finish\n"),
        (
            "try_cover.py",
            {"ypsicline.core.covers.families": "families", "ypsicline.core.checks.rules": "rules"},
            "a family and a rule are a module each\n",
        ),
    ],
)
def test_a_kind_is_added_by_one_module(script: str, beside: dict[str, str], says: str) -> None:
    lines = [
        f"import {package}; {package}.__path__.append({str(HERE / 'adding' / folder)!r})"
        for package, folder in beside.items()
    ]
    then = f"import runpy; runpy.run_path({str(HERE / 'adding' / script)!r})"
    command = [sys.executable, "-c", "; ".join([*lines, then])]
    environment = {**os.environ, "PYTHONPATH": str(HERE.parent)}
    done = subprocess.run(command, capture_output=True, text=True, timeout=120, env=environment, check=False)
    assert done.stdout == says, done.stderr
