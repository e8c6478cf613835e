"""The worked cases in tests/data, computed apart from the project."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

__all__ = ["worked_cases"]

_ALL = json.loads((Path(__file__).parent / "data" / "worked_cases.json").read_text())


def worked_cases(name: str) -> list[dict[str, Any]]:
    """Those whose name starts with `name`; there must be some."""
    result = [case for case in _ALL if case["name"].startswith(name)]
    if not result:
        raise LookupError(f"no worked case is called {name}")
    return result
