"""The database brought to this version; a workshop that is there already is copied first, and each of its jobs read once."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from ypsicline.server.jobs.wall import renew_tickets
from ypsicline.server.operations.backup import back_up


class Command(BaseCommand):
    help = "Migrate the database, after a copy of the workshop where there is one to change."

    def handle(self, *args: Any, **options: Any) -> None:
        executor = MigrationExecutor(connection)
        plan = executor.migration_plan(executor.loader.graph.leaf_nodes())
        if plan and executor.loader.applied_migrations:
            copy = back_up(settings.DATA, settings.DATA.parent / "copies")
            self.stdout.write(f"A copy was made before the upgrade: {copy}")
        call_command("migrate", verbosity=0)
        if unreadable := renew_tickets(all_of_them=bool(plan)):
            self.stdout.write(f"{unreadable} jobs can't be read by this version; their tickets say so.")
