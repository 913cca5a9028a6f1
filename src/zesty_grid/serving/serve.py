"""The verb `serve`: takes the data file in hand, says where the application is, and runs it."""

import os
import signal
import sys
from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from pathlib import Path
from threading import Thread
from types import FrameType

import segno
import uvicorn

from zesty_grid.api.access import Doorkeeper
from zesty_grid.api.application import create_application
from zesty_grid.api.safekeeping import Safekeeping
from zesty_grid.core.refusal import Refusal
from zesty_grid.demo.worked_example import make_worked_example
from zesty_grid.serving.addresses import THIS_COMPUTER, in_url, is_only_here, own_names
from zesty_grid.serving.certificate import LocalCertificate, certificate_for
from zesty_grid.serving.checking import check_apart
from zesty_grid.serving.collecting import collect_seldom
from zesty_grid.serving.demo_beside import DemoBeside
from zesty_grid.standins.probe import start_probes
from zesty_grid.store.access import codes_in_force, make_code
from zesty_grid.store.backup_names import default_folder
from zesty_grid.store.backups import Backups
from zesty_grid.store.database import Database
from zesty_grid.store.file_in_use import FileInUse
from zesty_grid.store.opening import open_data

NO_BACKUPS = "none"
# At the end, for answers that are under way; phones that only keep their line open would hold it up for 30 s.
PATIENCE_S = 3


@dataclass(frozen=True)
class Serving:
    """What was said at the start. `backups`: a folder, “none”, or None for the one beside it."""

    data: Path
    host: str = "127.0.0.1"
    port: int = 8750
    demo: bool = False
    tls: bool = False
    backups: str | None = None
    probes: tuple[str, ...] = ()


def serve(asked: Serving) -> None:
    """Runs until it is stopped. Raises Refusal where the file cannot be opened."""
    names = own_names(asked.host)
    address = f"{'https' if asked.tls else 'http'}://{in_url(names[0])}:{asked.port}"
    signal.signal(signal.SIGTERM, _end_in_order)
    in_use = FileInUse(asked.data, address)
    database = None
    try:
        folder = _folder(asked)
        database = open_data(asked.data, folder)
        _run(asked, database, in_use, names, address)
    except KeyboardInterrupt:
        pass
    finally:
        if database is not None and database.was_replaced:
            # Closing in order would fold the old log into the file that lies there now.
            sys.stdout.flush()
            os._exit(3)
        in_use.end()


def _run(asked: Serving, database: Database, in_use: FileInUse, names: list[str], address: str) -> None:
    say: Callable[[str], None] = lambda words: print(words, flush=True)  # noqa: E731
    certificate = None
    if asked.tls:
        beside = asked.data.with_name(f"{asked.data.stem} certificate")
        certificate = certificate_for(beside, [*names, *THIS_COMPUTER])
    keeper = None
    if not is_only_here(asked.host):
        keeper = Doorkeeper(address, asked.tls, certificate.authority if certificate else None)
    for notice in in_use.notices:
        say(f"Notice: {notice}")
    folder = _folder(asked)
    makes = folder is not None and not database.only_reading
    keeping = Safekeeping(
        Backups(database, folder or default_folder(asked.data), look=check_apart), in_use.notices, makes
    )
    if database.only_reading:
        say(f"Only for reading: {database.only_reading}")
    else:
        in_use.begin()
        database.in_use = in_use
    hosts = frozenset({*THIS_COMPUTER, *names})
    app = create_application(database, hosts, keeper, keeping, make_worked_example)
    for probe in asked.probes:
        app.state.probes.listen(*_host_and_port(probe))
    if makes:
        keeping.backups.keep_making()
    Thread(target=_load_ahead, daemon=True).start()
    collect_seldom()
    _say_where(address, database, keeper, certificate, say)
    demo = None
    if asked.demo and not database.only_reading:
        demo = DemoBeside(database, app, say, lambda: app.state.probes.listen(*start_probes()))
    try:
        uvicorn.run(
            app,
            host=asked.host,
            port=asked.port,
            log_level="warning",
            server_header=False,
            timeout_graceful_shutdown=PATIENCE_S,
            ssl_certfile=certificate.certificate if certificate else None,
            ssl_keyfile=certificate.key if certificate else None,
        )
    finally:
        if demo is not None:
            demo.end()


def _say_where(
    address: str,
    database: Database,
    keeper: Doorkeeper | None,
    certificate: LocalCertificate | None,
    say: Callable[[str], None],
) -> None:
    say(f"Zesty Grid: {address}")
    if certificate is not None:
        say(f"Its authority, for phones to trust: {certificate.authority}")
        say(f"SHA-256 of it: {certificate.fingerprint()}")
    if keeper is None:
        return
    if certificate is None:
        say("Others in this network can listen: start it with --tls to keep them out.")
    with database.connection() as connection:
        has_code = "full" in codes_in_force(connection)
    if has_code or database.only_reading:
        say("It asks for its access code. “zesty-grid access” makes a new one.")
        return
    with database.transaction() as connection:
        code = make_code(connection, "full")
    say_code(code, keeper.link_for(code), say)


def say_code(code: str, link: str, say: Callable[[str], None]) -> None:
    """A new code in letters and as a square code for the phone's camera; it is said only once."""
    say(f"Access code: {code}   (write it down: it is not shown again)")
    say(f"On a phone: {link}")
    segno.make(link, micro=False, error="l").terminal(compact=True)
    sys.stdout.flush()


def _folder(asked: Serving) -> Path | None:
    if asked.backups == NO_BACKUPS:
        return None
    return Path(asked.backups) if asked.backups else default_folder(asked.data)


def _host_and_port(address: str) -> tuple[str, int]:
    host, _, port = address.rpartition(":")
    if not port.isdigit():
        raise Refusal("no-address", f"“{address}” is no address.", "Say it as HOST:PORT.")
    return host, int(port)


def _load_ahead() -> None:
    """What takes seconds to load: in the background, before it is asked for."""
    for name in ("colour", "scipy.stats", "pvlib"):
        import_module(name)


def _end_in_order(_signal: int, _frame: FrameType | None) -> None:
    raise SystemExit(0)
