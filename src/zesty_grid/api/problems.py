"""Errors as problem+json (RFC 9457), in words for the person."""

import sqlite3
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException

from zesty_grid.api.headers import HEADERS
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.store.opening import refusal_for
from zesty_grid.store.plan import NotFound, StudyChangedElsewhere

STATUS = {
    "already-accepted": 409,
    "measured-again": 409,
    "key-taken": 409,
    "in-use": 409,
    "corrected-already": 409,
    "no-backup": 404,
    "no-study": 404,
    "two-studies": 409,
    "no-device": 404,
    "not-open": 409,
    "no-certificate": 404,
    "last-code": 409,
    # What is wrong with the computer, not with what was sent.
    "only-reading": 503,
    "file-replaced": 503,
    "file-held": 503,
    "file-damaged": 503,
    "disk-error": 503,
    "disk-full": 507,
    "no-room": 507,
    "no-backup-made": 503,
    "faulty-backup": 503,
}
# Each part is allowed and they do not go together, or there is no such day: no schema can say so
# beforehand (names of Pydantic's errors).
NOTHING_HERE, BACK = "There is nothing at this address.", "Go back to the start page."
NOT_IN_A_SCHEMA = {"value_error", "datetime_from_date_parsing", "date_from_datetime_inexact"}


def problem(
    status: int, code: str, title: str, detail: str, faults: list[Fault] | None = None, **more: Any
) -> JSONResponse:
    body = {
        "type": f"urn:zesty-grid:problem:{code}",
        "title": title,
        "status": status,
        "detail": detail,
        "errors": [fault.model_dump() for fault in faults or []],
        **more,
    }
    return JSONResponse(body, status, media_type="application/problem+json")


def install_problem_handlers(app: FastAPI) -> None:
    @app.exception_handler(Refusal)
    def refused(_: Request, error: Refusal) -> JSONResponse:
        status = STATUS.get(error.code, 422)
        more = {}
        if isinstance(error, NotFound):
            status = 404
        if isinstance(error, StudyChangedElsewhere):
            status = 409
            more["revision"] = error.current.revision
        return problem(status, error.code, error.reason, error.cure, list(error.faults), **more)

    @app.exception_handler(sqlite3.Error)
    def not_kept(_: Request, error: sqlite3.Error) -> JSONResponse:
        refusal = refusal_for(error)
        return problem(STATUS[refusal.code], refusal.code, refusal.reason, refusal.cure)

    @app.exception_handler(Exception)
    def fault(_: Request, __: Exception) -> JSONResponse:
        answer = problem(
            500,
            "fault",
            "Something went wrong here; it is a fault of the application.",
            "What you entered is still on the screen. Try again; where it was started, more is written.",
        )
        answer.headers.update(HEADERS)  # this answer is made outside of the guard
        return answer

    @app.exception_handler(RequestValidationError)
    def invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        if any(item["loc"][:1] == ("path",) for item in error.errors()):
            return problem(404, "not-found", NOTHING_HERE, BACK)
        faults = [_fault(item) for item in error.errors()[:20]]
        code = "does-not-fit" if NOT_IN_A_SCHEMA & {e["type"] for e in error.errors()} else "invalid"
        return problem(
            422,
            code,
            "Something in what was entered is not allowed.",
            "; ".join(f"{fault.field}: {fault.allowed}" for fault in faults[:3]),
            faults,
        )

    @app.exception_handler(HTTPException)
    def http(_: Request, error: HTTPException) -> JSONResponse:
        words = NOTHING_HERE if error.status_code == 404 else error.detail
        answer = problem(error.status_code, "http", words, BACK)
        answer.headers.update(error.headers or {})  # which methods there are (RFC 9110, 15.5.6)
        return answer


def _fault(item: dict[str, Any]) -> Fault:
    place = ".".join(str(part) for part in item["loc"] if part not in ("body", "query", "path"))
    message = str(item["msg"]).removeprefix("Value error, ")
    return Fault(
        field=place or "request",
        given=repr(item.get("input"))[:80],
        allowed=message[0].lower() + message[1:],
        cure="Change it and save again.",
    )
