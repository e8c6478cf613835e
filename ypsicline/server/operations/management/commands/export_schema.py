"""The API's schema as a file, from which the interface's types are made."""

from __future__ import annotations

import json
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand

from ypsicline.server.api import api


class Command(BaseCommand):
    help = "Write the OpenAPI schema to FILE."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, file: Path, **options: Any) -> None:
        file.write_text(schema_text())


def schema_text() -> str:
    return json.dumps(api.get_openapi_schema(), indent=1, sort_keys=True) + "\n"
