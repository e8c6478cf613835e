"""Calls made up from the schema itself: none may end in an error of the server, or in an answer that it doesn't name."""

from __future__ import annotations

import json
import os
from typing import Any

import pytest
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from ypsicline.server.jobs.models import Job
from ypsicline.server.operations.management.commands.export_schema import schema_text

SCHEMA = schemathesis.openapi.from_dict(json.loads(schema_text()))
CALLS = int(os.environ.get("YPSICLINE_CALLS", "4"))
# the library's own cases for each value, many to an operation, belong to the long form
SCHEMA.config.phases.coverage.enabled = CALLS > 4
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]


@pytest.mark.django_db(transaction=True)
@SCHEMA.parametrize()
@settings(max_examples=CALLS, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
def test_a_made_up_call(case: schemathesis.Case, job: Job, user: Any, live_server: Any) -> None:
    client = Client()
    client.force_login(user)
    token = "x" * 32
    cookies = {k: m.value for k, m in client.cookies.items()} | {"ypsicline_csrf": token}
    if "job_id" in (case.path_parameters or {}):
        case.path_parameters["job_id"] = job.pk
    # as from a window that shows the job as it is
    job.refresh_from_db()
    headers = {"X-Revision": str(job.position), "X-CSRFToken": token}
    answer = case.call(base_url=live_server.url, cookies=cookies, headers=headers)
    # the library takes a list of pairs in a description of an answer for something else
    case.validate_response(answer, checks=CHECKS[:-1] if case.path.endswith("/tablet") else CHECKS)


def test_every_operation_says_what_it_does_and_how_it_refuses() -> None:
    schema = json.loads(schema_text())
    for path, item in schema["paths"].items():
        for method, operation in item.items():
            assert operation["tags"], path
            assert operation["summary"], path
            assert operation["description"], path
            changes = method != "get" and ("/jobs/{" in path or "/photos/{" in path)
            assert ("409" in operation["responses"]) == changes, path
            assert operation["responses"]["422"]["content"]["application/json"]["schema"]["$ref"].endswith("/Refusal")
