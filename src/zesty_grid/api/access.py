"""Who may come in when the application is open to a network: codes, devices, and tries."""

import threading
import time
from collections import defaultdict, deque
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import Annotated

import segno
from fastapi import APIRouter, Request
from fastapi.responses import FileResponse, JSONResponse, Response
from pydantic import BaseModel, StringConstraints

from zesty_grid.api.problems import problem
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.record.access import AccessWhat, CodeKind, wait_after
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.access import (
    Device,
    code_that_fits,
    codes_in_force,
    device_with,
    let_in,
    list_devices,
    make_code,
    revoke_code,
    revoke_device,
)
from zesty_grid.store.access_events import access_events, note_access

router = APIRouter(prefix="/api/access", tags=["access"])
COOKIE = "zesty-grid-device"
COOKIE_FOR_S = 180 * 24 * 3600
EVERYBODY = "everybody"
# Before a code was entered, and for a guest to leave.
EVERYBODY_MAY_ASK = {
    ("GET", "/api/access"),
    ("POST", "/api/access"),
    ("DELETE", "/api/access"),
    ("GET", "/api/access/certificate"),
}
# From all addresses together: a code cannot be tried from a thousand of them.
TRIES_OF_ALL = 10
EVENTS_SHOWN = 30


@dataclass
class Doorkeeper:
    """Asks for a code. `address` is what a phone opens; wrong tries are remembered while the
    application runs, by address and all together."""

    address: str
    is_secure: bool = False
    authority: Path | None = None
    _wrong: dict[str, deque[float]] = field(default_factory=lambda: defaultdict(lambda: deque(maxlen=64)))
    _one_at_a_time: threading.Lock = field(default_factory=threading.Lock)

    def try_code(self, store: Store, typed: str, name: str, come_from: str) -> str | float:
        """The secret of a device that is let in; else how many seconds to wait (0: try again)."""
        with self._one_at_a_time:  # argon2 takes 64 MiB a try
            at = time.monotonic()
            # Everybody together has twice the tries of one before waiting begins.
            of_all = list(self._wrong[EVERYBODY])[TRIES_OF_ALL - 5 :]
            wait = max(wait_after(list(self._wrong[come_from]), at), wait_after(of_all, at))
            if wait > 0:
                return wait
            with store.connection() as connection:
                fits = code_that_fits(connection, typed)
            if fits is None:
                self._wrong[come_from].append(at)
                self._wrong[EVERYBODY].append(at)
                with store.transaction() as connection:
                    note_access(connection, "wrong code", come_from, name)
                return 0.0
            self._wrong.pop(come_from, None)
            with store.transaction() as connection:
                note_access(connection, "came in", come_from, name)
                return let_in(connection, fits, name)

    def link_for(self, code: str) -> str:
        """Opens the page with the code typed in. What follows # is never sent to any server."""
        return f"{self.address}/#/enter/{code}"


class AccessState(BaseModel):
    """`asked`: a code is needed here; `kind`: what this device came in with."""

    asked: bool
    kind: CodeKind | None = None
    device: str = ""
    address: str = ""
    authority: bool = False


class Typed(BaseModel):
    code: Annotated[str, StringConstraints(max_length=60)]
    device: Annotated[str, StringConstraints(strip_whitespace=True, max_length=40)] = ""


class DeviceLine(BaseModel):
    id: int
    name: str
    kind: CodeKind
    came_in_at: datetime
    seen_at: datetime
    is_this: bool


class AccessLine(BaseModel):
    """`come_from` is an address; `words` name the device or the kind of code."""

    at: datetime
    what: AccessWhat
    come_from: str
    words: str


class Doors(BaseModel):
    """Codes in force, by when they were made, the devices that came in, and what happened lately at
    the door."""

    full_made_at: datetime | None
    guest_made_at: datetime | None
    devices: tuple[DeviceLine, ...]
    events: tuple[AccessLine, ...]


class NewCode(BaseModel):
    """Shown once. `square` is the link as a square code: a data URI of an SVG."""

    code: str
    link: str
    square: str


@router.get("")
def access_state(request: Request) -> AccessState:
    keeper = _keeper(request)
    if keeper is None:
        return AccessState(asked=False)
    device = device_of(request)
    return AccessState(
        asked=True,
        kind=device.kind if device else None,
        device=device.name if device else "",
        address=keeper.address if device else "",
        authority=keeper.authority is not None,
    )


@router.post("", status_code=204, response_class=Response)
def come_in(request: Request, typed: Typed, store: Store) -> Response:
    """Sets the device's cookie."""
    keeper = _must_keep(request)
    come_from = _address(request)
    name = typed.device or _kind_of_device(request.headers.get("user-agent", ""))
    secret = keeper.try_code(store, typed.code, name, come_from)
    if isinstance(secret, float):
        return _not_let_in(secret)
    answer = Response(status_code=204)
    answer.set_cookie(
        COOKIE, secret, max_age=COOKIE_FOR_S, httponly=True, samesite="strict", secure=keeper.is_secure, path="/"
    )
    return answer


@router.delete("", status_code=204, response_class=Response)
def go_out(request: Request, store: Store) -> Response:
    """This device has to enter a code again."""
    device = device_of(request)
    if device is not None:
        with store.transaction() as connection:
            revoke_device(connection, device.id)
            note_access(connection, "left", _address(request), device.name)
    answer = Response(status_code=204)
    answer.delete_cookie(COOKIE, path="/")
    return answer


@router.get("/doors")
def doors(request: Request, store: Store) -> Doors:
    _must_keep(request)
    device = device_of(request)
    with store.connection() as connection:
        made = codes_in_force(connection)
        devices = list_devices(connection)
        events = access_events(connection, EVENTS_SHOWN)
    return Doors(
        full_made_at=made.get("full"),
        guest_made_at=made.get("guest"),
        devices=tuple(
            DeviceLine.model_validate(one._asdict() | {"is_this": device is not None and one.id == device.id})
            for one in devices
        ),
        events=tuple(AccessLine.model_validate(one._asdict()) for one in events),
    )


@router.post("/codes/{kind}", status_code=201)
def change_code(request: Request, kind: CodeKind, store: Store) -> NewCode:
    """A new code; devices that came in with the one before have to enter it, but for this one."""
    keeper = _must_keep(request)
    device = device_of(request)
    with store.transaction() as connection:
        code = make_code(connection, kind, staying=device)
        note_access(connection, "new code", _address(request), kind)
    link = keeper.link_for(code)
    square = segno.make(link, micro=False, error="m").svg_data_uri(scale=4, border=4, light="#fff")
    return NewCode(code=code, link=link, square=square)


@router.delete("/codes/{kind}", status_code=204, response_class=Response)
def take_code_back(request: Request, kind: CodeKind, store: Store) -> Response:
    """Nobody comes in with it any more. The full code is only changed, never without one."""
    _must_keep(request)
    if kind == "full":
        raise Refusal("last-code", "Without this code nobody could come in.", "Make a new one.")
    with store.transaction() as connection:
        revoke_code(connection, kind)
        note_access(connection, "code taken back", _address(request), kind)
    return Response(status_code=204)


@router.delete("/devices/{device_id}", status_code=204, response_class=Response)
def put_device_out(request: Request, device_id: RowId, store: Store) -> Response:
    _must_keep(request)
    with store.transaction() as connection:
        name = next((one.name for one in list_devices(connection) if one.id == device_id), "")
        revoke_device(connection, device_id)
        note_access(connection, "device put out", _address(request), name)
    return Response(status_code=204)


@router.get("/certificate", response_class=FileResponse)
def authority(request: Request) -> FileResponse:
    """What a phone has to trust, so that it believes this server; no secret."""
    keeper = _must_keep(request)
    if keeper.authority is None:
        raise Refusal("no-certificate", "The application was started without --tls.", "Start it with --tls.")
    return FileResponse(keeper.authority, media_type="application/x-x509-ca-cert", filename="zesty-grid-authority.crt")


def device_of(request: Request) -> Device | None:
    """Whoever asks, by the cookie; looked up once a request."""
    if not hasattr(request.state, "device"):
        secret = request.cookies.get(COOKIE, "")
        with request.app.state.database.connection() as connection:
            request.state.device = device_with(connection, secret) if secret else None
    found: Device | None = request.state.device
    return found


def _address(request: Request) -> str:
    return request.client.host if request.client else ""


def _keeper(request: Request) -> Doorkeeper | None:
    found: Doorkeeper | None = request.app.state.doorkeeper
    return found


def _must_keep(request: Request) -> Doorkeeper:
    found = _keeper(request)
    if found is None:
        raise Refusal(
            "not-open",
            "The application is open on this computer only, and asks nobody for a code.",
            "Start it with --host 0.0.0.0 to let other devices in.",
        )
    return found


def _not_let_in(wait_s: float) -> JSONResponse:
    if wait_s:
        seconds = max(1, round(wait_s))
        answer = problem(
            429,
            "too-many-tries",
            "Too many wrong codes were tried.",
            f"Try again in {seconds} seconds." if seconds < 90 else f"Try again in {round(seconds / 60)} minutes.",
        )
        answer.headers["Retry-After"] = str(seconds)
        return answer
    return problem(
        403,
        "wrong-code",
        "This is not the code.",
        "It was shown where the application was started. A device that is already in can make a "
        "new one under Safekeeping.",
    )


def _kind_of_device(agent: str) -> str:
    """Words for a device that was not named, from what its browser says of itself."""
    for sign, words in (("iPad", "tablet"), ("iPhone", "phone"), ("Mobile", "phone"), ("Android", "tablet")):
        if sign in agent:
            return words
    return "computer"
