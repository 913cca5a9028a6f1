"""Who may talk to the application, and what its pages may load."""

from collections.abc import Awaitable, Callable
from urllib.parse import urlsplit

from fastapi import Request, Response

from zesty_grid.api.problems import problem
from zesty_grid.formats.photo import MAX_BYTES

# The hash is that of an empty style element: the styling library opens one and fills it by script.
EMPTY_STYLE = "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='"
POLICY = (
    f"default-src 'self'; img-src 'self' blob: data:; style-src 'self' {EMPTY_STYLE}; "
    "script-src 'self'; "
    "connect-src 'self'; font-src 'self'; object-src 'none'; base-uri 'none'; "
    "form-action 'self'; frame-ancestors 'none'"
)
HEADERS = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "geolocation=(), microphone=()",
}
MOST_BYTES = MAX_BYTES + 2**20
Next = Callable[[Request], Awaitable[Response]]


def guard_for(allowed_hosts: frozenset[str]) -> Callable[[Request, Next], Awaitable[Response]]:
    """Refuses a foreign Host, and changes asked for by another site's page."""

    async def guard(request: Request, call_next: Next) -> Response:
        host = request.headers.get("host", "")
        name = urlsplit(f"//{host}").hostname if _is_plain(host) else None
        origin = request.headers.get("origin")
        response: Response
        if name not in allowed_hosts:
            response = problem(
                421, "foreign-host", "This address does not belong to this application.",
                "Open it by the address that it printed when it started.",
            )  # fmt: skip
        elif request.method not in ("GET", "HEAD") and origin and urlsplit(origin).netloc != host:
            response = problem(
                403, "foreign-origin", "Another site's page may not change anything here.",
                "Use the application's own pages.",
            )  # fmt: skip
        elif int(request.headers.get("content-length") or 0) > MOST_BYTES:
            response = problem(
                413, "too-many-bytes", "What was sent is too large.",
                f"At most {MOST_BYTES // 2**20} MiB: save the photo as JPEG.",
            )  # fmt: skip
        else:
            response = await call_next(request)
        for header, value in HEADERS.items():
            response.headers[header] = value
        return response

    return guard


def _is_plain(host: str) -> bool:
    return all(c.isalnum() or c in ".-:[]" for c in host)
