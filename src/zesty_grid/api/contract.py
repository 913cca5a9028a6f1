"""The OpenAPI document: what is answered when something is wrong, for every request."""

from collections.abc import Iterator
from typing import Any

from fastapi import FastAPI
from pydantic import BaseModel

from zesty_grid.core.refusal import Fault

PROBLEM = "application/problem+json"
REF = {"$ref": "#/components/schemas/Problem"}
ALWAYS = {
    401: "A code is asked for here, and this device is not in.",
    403: "A page of another site, or a guest who wants to change something.",
    421: "The address is not one of this application.",
    429: "Too many requests, or too many wrong codes.",
    500: "A fault of the application.",
    503: "The data file cannot be used as asked, or may only be read.",
}
WITH_INPUT = {422: "What was given is not allowed; `errors` names the fields."}
WITH_BODY = {
    400: "The body cannot be taken apart.",
    413: "The body is too large.",
    415: "The content type is not taken here.",
}
WITH_NAMES = {404: "There is nothing of this name or number."}
# What is no JSON, by how its address ends.
FILES = {
    ".pdf": ("application/pdf",),
    ".png": ("image/png",),
    ".csv": ("text/csv",),
    ".zip": ("application/zip",),
    ".ics": ("text/calendar",),
    ".html": ("text/html",),
    ".webp": ("image/webp",),
    "/image": ("image/jpeg",),
    "/dye/photos/{digest}": ("image/jpeg",),
    "/tables/print": ("application/pdf",),
    "/palette.{kind}": ("text/css", "image/svg+xml", "text/plain"),
    "/backups/{name}": ("application/vnd.sqlite3",),
    "/access/certificate": ("application/x-x509-ca-cert",),
}
BYTES = {"schema": {"type": "string", "format": "binary"}}
IN_THE_WAY = {409: "It has changed meanwhile, or stands in the way of what is there."}
CHANGING = {507: "The disk is full."}


class Problem(BaseModel):
    """RFC 9457, in words for the person. `revision` is the newest one of a study that was changed
    elsewhere."""

    type: str
    title: str
    status: int
    detail: str
    errors: tuple[Fault, ...] = ()
    revision: int | None = None


def describe_problems(app: FastAPI) -> None:
    """From now on the document says of every operation which problems it may answer with."""
    plain = app.openapi

    def described() -> dict[str, Any]:
        if app.openapi_schema is None:
            document = plain()
            schemas = document["components"]["schemas"]
            named = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
            schemas |= named.pop("$defs", {}) | {"Problem": named}
            document["components"]["responses"] = {
                f"Problem{status}": {"description": words, "content": {PROBLEM: {"schema": REF}}}
                for said in (ALWAYS, WITH_INPUT, WITH_BODY, WITH_NAMES, IN_THE_WAY, CHANGING)
                for status, words in said.items()
            }
            for unused in ("HTTPValidationError", "ValidationError"):
                schemas.pop(unused, None)
            for name, tag in list(_tags(document)):
                _require(schemas[name], tag)
            for path, operations in document["paths"].items():
                for method, operation in operations.items():
                    _describe(path, method, operation)
        assert app.openapi_schema is not None
        return app.openapi_schema

    app.openapi = described  # type: ignore[method-assign]


def _tags(schema: Any) -> Iterator[tuple[str, str]]:
    """Which schemas are told apart by which of their properties, anywhere below."""
    if isinstance(schema, dict):
        tag = schema.get("discriminator")
        if isinstance(tag, dict) and "mapping" in tag:
            yield from ((ref.rsplit("/", 1)[-1], tag["propertyName"]) for ref in tag["mapping"].values())
        for below in schema.values():
            yield from _tags(below)
    elif isinstance(schema, list):
        for below in schema:
            yield from _tags(below)


def _require(schema: dict[str, Any], tag: str) -> None:
    """What tells one from the other has to be sent, whatever stands for it by itself."""
    required = schema.setdefault("required", [])
    if tag not in required:
        required.append(tag)


def _describe(path: str, method: str, operation: dict[str, Any]) -> None:
    for ending, media in FILES.items():
        if path.endswith(ending):
            operation["responses"]["200"]["content"] = dict.fromkeys(media, BYTES)
    said = dict(ALWAYS)
    if operation.get("parameters") or "requestBody" in operation:
        said |= WITH_INPUT
    if "requestBody" in operation:
        said |= WITH_BODY
    if "{" in path or operation.get("parameters") or "requestBody" in operation:
        said |= WITH_NAMES
    if "requestBody" in operation or "{" in path or path.startswith("/api/access/"):
        said |= IN_THE_WAY
    if method != "get":
        said |= CHANGING
    for status in sorted(said):
        operation["responses"][str(status)] = {"$ref": f"#/components/responses/Problem{status}"}
