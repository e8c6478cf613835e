"""A kind of feature is one module: one that is put beside the others is typed, drafted, carried along, stored and shown."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

HERE = Path(__file__).parents[1]


def test_a_kind_of_feature_is_added_by_one_module() -> None:
    beside = (
        f"from ypsicline.core.pattern import features; features.__path__.append({str(HERE / 'adding' / 'features')!r})"
    )
    then = f"import runpy; runpy.run_path({str(HERE / 'adding' / 'try_loop.py')!r})"
    script = [sys.executable, "-c", f"{beside}; {then}"]
    environment = {**os.environ, "PYTHONPATH": str(HERE.parent)}
    done = subprocess.run(script, capture_output=True, text=True, timeout=120, env=environment, check=False)
    assert done.stdout == "a loop is a feature\n", done.stderr
