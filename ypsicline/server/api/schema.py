"""The schema with what every operation may answer beside its own: a refusal, by status."""

from __future__ import annotations

import json
import re
from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from ypsicline.core.formats.changes import change_adapter
from ypsicline.core.wording import render
from ypsicline.server.answers import message_for

__all__ = ["CHANGE_BODY", "Interface"]

CHANGE_BODY = {"required": True, "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Change"}}}}
"""The body of a request that is a change."""

_SCHEMAS = "#/components/schemas/"
_METHODS = ("get", "post", "put", "delete", "patch")
_FOR_ALL = (400, 401, 403, 404, 413, 422, 503, 507)
_OF_A_JOB = {
    409: "The job was changed meanwhile, in another window or by somebody else.",
    422: "What was sent can't be used, or can't be done with the job as it is; the sentence says what and why.",
}
_REFUSAL: dict[str, Any] = {
    "title": "Refusal",
    "type": "object",
    "description": "Why something wasn't done, in a sentence for the maker; `reason` is the same one as a word.",
    "properties": {
        "sentence": {"type": "string"},
        "reason": {"type": "string"},
        "place": {"type": "object"},
        "numbers": {"type": "object"},
    },
    "required": ["sentence"],
}
_REVISION: dict[str, Any] = {
    "in": "header",
    "name": "X-Revision",
    "required": False,
    "description": "The revision of the job that the window shows, which a change starts from; a change without is refused.",
    "schema": {"type": "string", "pattern": "^[0-9]{1,9}$"},
}


class Interface(NinjaAPI):
    """The application's interface for programs; its schema says every status that can come."""

    def get_openapi_schema(self, **how: Any) -> OpenAPISchema:
        """The schema of all operations, with their refusals."""
        schema = super().get_openapi_schema(**how)
        schemas = schema["components"]["schemas"]
        schemas["Refusal"] = _REFUSAL
        schemas |= _changes(set(schemas))
        for answer in schemas.values():
            for name, of_answer in answer.get("properties", {}).items():
                if of_answer.get("format") == "change":
                    answer["properties"][name] = {"$ref": f"{_SCHEMAS}Change"}
        for path, item in schema["paths"].items():
            for method in _METHODS:
                if operation := item.get(method):
                    _complete(path, method, operation)
        return schema


def _changes(names: set[str]) -> dict[str, Any]:
    """The schemas of all changes, together called Change; what is of a name that an answer has got is called by its
    name and In."""
    whole = json.dumps(change_adapter().json_schema(ref_template=f"{_SCHEMAS}{{model}}"))
    parts = json.loads(whole)["$defs"]
    for name in names & set(parts):
        whole = whole.replace(f'"{_SCHEMAS}{name}"', f'"{_SCHEMAS}{name}In"')
    change = json.loads(whole)
    parts = {f"{n}In" if n in names else n: p for n, p in change.pop("$defs").items()}
    for part in parts.values():
        # the kind says which change it is, so it has to be there
        if "const" in part.get("properties", {}).get("kind", {}):
            part.setdefault("required", []).append("kind")
    return {**parts, "Change": change}


def _complete(path: str, method: str, operation: dict[str, Any]) -> None:
    # what it does, in its own first sentence
    operation["summary"] = re.split(r"[.;:] |\.$", " ".join(operation.get("description", "").split()))[0]
    changes = method != "get" and ("/jobs/{" in path or "/photos/{" in path)
    if changes:
        operation.setdefault("parameters", []).append(_REVISION)
    content = {"application/json": {"schema": {"$ref": "#/components/schemas/Refusal"}}}
    for status in (*_FOR_ALL, *((409,) if changes else ())):
        why = _OF_A_JOB.get(status) or render(message_for(status))
        operation["responses"].setdefault(status, {"description": why, "content": content})
