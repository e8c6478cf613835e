"""The core stands alone."""

import subprocess
import sys

LOAD_ALL = """
import importlib, pkgutil, sys
import ypsicline.core as core
for module in pkgutil.walk_packages(core.__path__, "ypsicline.core."):
    importlib.import_module(module.name)
bad = sorted(m for m in sys.modules if m.split(".")[0] in {"django", "ninja", "requests", "httpx", "waitress"}
             or m.startswith(("ypsicline.server", "ypsicline.standins")))
print(",".join(bad))
"""


def test_loading_the_whole_core_loads_no_web_no_orm_and_no_stand_in() -> None:
    ran = subprocess.run([sys.executable, "-c", LOAD_ALL], capture_output=True, text=True, check=True)
    assert ran.stdout.strip() == ""
