"""Who may talk to the application, and what its pages may load."""

import re
import time
from collections.abc import Awaitable, Callable
from urllib.parse import urlsplit

from fastapi import Request, Response
from fastapi.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from zesty_grid.api.access import EVERYBODY_MAY_ASK, Doorkeeper, device_of
from zesty_grid.api.headers import HEADERS
from zesty_grid.api.problems import problem
from zesty_grid.api.reads_only import reads_only
from zesty_grid.formats.photo import MAX_BYTES
from zesty_grid.store.access import is_long_unseen, note_seen
from zesty_grid.store.signing import written_by

MOST_BYTES = MAX_BYTES + 2**20
# A package holds all photographs of its studies.
LARGER_BODIES = {"/api/packages": 8 * 2**30}
# What a page of another site can send without asking first (Fetch standard, “CORS-safelisted”),
# and what this application never takes as it is.
FORMS_OF_OTHER_SITES = ("text/plain", "application/x-www-form-urlencoded")
MOST_AT_ONCE, A_SECOND = 400.0, 40.0
# Another content has another name.
HASHED = re.compile(r"/assets/.+-[\w-]{8}\.\w+")
Next = Callable[[Request], Awaitable[Response]]


def guard_for(
    allowed_hosts: frozenset[str], keeper: Doorkeeper | None
) -> Callable[[Request, Next], Awaitable[Response]]:
    """Refuses a foreign Host, changes asked for by another site's page, devices that are not in,
    and changes by guests."""
    pace = Pace()

    async def guard(request: Request, call_next: Next) -> Response:
        response = _refusal(request, allowed_hosts)
        if response is None and keeper is not None:
            response = pace.refusal(request) or _not_in(request)
        if response is None:
            device = device_of(request) if keeper is not None else None
            if device is not None and is_long_unseen(device):
                with request.app.state.database.transaction() as connection:
                    note_seen(connection, device)
            with written_by(device.id if device else None):
                response = await call_next(request)
        for header, value in HEADERS.items():
            response.headers[header] = value
        if response.status_code == 200 and HASHED.fullmatch(request.url.path):
            response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        if request.url.path.startswith("/api/") and "cache-control" not in response.headers:
            response.headers["Cache-Control"] = "no-store" if keeper else "no-cache"
        return response

    return guard


class Pace:
    """At most 40 requests a second of one address in the long run, 400 at once."""

    def __init__(self) -> None:
        self._left: dict[str, tuple[float, float]] = {}

    def refusal(self, request: Request) -> Response | None:
        now, who = time.monotonic(), request.client.host if request.client else ""
        left, at = self._left.get(who, (MOST_AT_ONCE, now))
        left = min(MOST_AT_ONCE, left + (now - at) * A_SECOND) - 1
        if len(self._left) > 10_000:
            self._left.clear()
        self._left[who] = (max(left, 0.0), now)
        if left >= 0:
            return None
        answer = problem(
            429, "too-fast", "Too many requests came from this device.", "It goes on by itself in a moment."
        )
        answer.headers["Retry-After"] = "1"
        return answer


class BodyLimit:
    """Ends a request whose body grows beyond what is taken, also one that does not say its size."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        taken, answered = 0, False
        most = LARGER_BODIES.get(scope["path"], MOST_BYTES)

        async def receive_bounded() -> Message:
            nonlocal taken
            message = await receive()
            taken += len(message.get("body", b""))
            return message if taken <= most else {"type": "http.disconnect"}

        async def send_noted(message: Message) -> None:
            nonlocal answered
            if taken > most and not answered:
                return  # words about a body that was cut off here
            answered = True
            await send(message)

        try:
            await self._app(scope, receive_bounded, send_noted)
        except Exception:
            if taken <= most or answered:
                raise
        if taken > most and not answered:
            await too_large()(scope, receive, send)


def too_large() -> JSONResponse:
    return problem(
        413,
        "too-many-bytes",
        "What was sent is too large.",
        f"At most {MOST_BYTES // 2**20} MiB: save the photo as JPEG.",
    )


def _refusal(request: Request, allowed_hosts: frozenset[str]) -> Response | None:
    host = request.headers.get("host", "")
    name = urlsplit(f"//{host}").hostname if _is_plain(host) else None
    if name not in allowed_hosts:
        return problem(
            421,
            "foreign-host",
            "This address does not belong to this application.",
            "Open it by the address that it printed when it started.",
        )
    if request.method not in ("GET", "HEAD"):
        if _is_foreign(request, host):
            return problem(
                403,
                "foreign-origin",
                "Another site's page may not change anything here.",
                "Use the application's own pages.",
            )
        kind = request.headers.get("content-type", "").split(";")[0].strip().lower()
        if kind in FORMS_OF_OTHER_SITES:
            return problem(
                415, "content-type", f"“{kind}” is not taken here.", "Send JSON, or a file as multipart/form-data."
            )
    length = request.headers.get("content-length") or "0"
    most = LARGER_BODIES.get(request.url.path, MOST_BYTES)
    if not length.isdigit() or int(length) > most:
        return too_large()
    return None


def _is_foreign(request: Request, host: str) -> bool:
    """Browsers say where a change comes from; programs without a cookie need not."""
    origin = request.headers.get("origin")
    if origin is not None:
        return origin != f"{request.url.scheme}://{host}"
    if "cookie" in request.headers:
        return True
    return request.headers.get("sec-fetch-site", "none") not in ("same-origin", "none")


def _not_in(request: Request) -> Response | None:
    if not request.url.path.startswith("/api/") or _may_everybody(request):
        return None
    device = device_of(request)
    if device is None:
        return problem(
            401,
            "code-needed",
            "This application asks for its access code.",
            "Enter the code that was shown where it was started.",
        )
    if device.kind == "guest" and not _may_guest(request):
        return problem(
            403,
            "guest",
            "With a guest code everything may be looked at, and nothing changed.",
            "Ask for the full code if you work on this study.",
        )
    return None


def _may_everybody(request: Request) -> bool:
    return (request.method, request.url.path) in EVERYBODY_MAY_ASK


def _may_guest(request: Request) -> bool:
    path = request.url.path
    if path.startswith(("/api/access/", "/api/safekeeping")):
        return False
    return request.method in ("GET", "HEAD") or reads_only(request)


def _is_plain(host: str) -> bool:
    return all(c.isalnum() or c in ".-:[]" for c in host)
