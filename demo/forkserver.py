"""The process that the demo's helpers are forked from, begun before all else: it imports what they need meanwhile."""

from __future__ import annotations

import os
from multiprocessing import forkserver, get_context

__all__ = ["begin_forkserver"]


def begin_forkserver() -> None:
    # pictures of 100 MB come and go: glibc is to keep their memory instead of having it cleared anew each time
    os.environ.setdefault("MALLOC_MMAP_THRESHOLD_", str(1 << 30))
    os.environ.setdefault("MALLOC_TRIM_THRESHOLD_", str(1 << 32))
    get_context("forkserver").set_forkserver_preload(["demo.imported"])
    forkserver.ensure_running()
