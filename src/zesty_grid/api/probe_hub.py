"""Listens to probes (lines of JSON over a socket) and keeps what those in a bath read."""

import socket
import sqlite3
import threading
import time
from datetime import UTC, datetime

from pydantic import ValidationError

from zesty_grid.core.dye.probe_line import ProbeLine
from zesty_grid.core.dye.watching import BathReading
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import Database
from zesty_grid.store.probes import Hung, add_reading, hung_probes

KEEP_EVERY_S = 10.0
LOOK_EVERY_S = 2.0
AGAIN_AFTER_S = 3.0
SILENT_AFTER_S = 15.0
LONGEST_LINE = 4096


class ProbeHub:
    """The newest line of each probe; every ten seconds one is kept for a probe that hangs in a
    bath. A probe that falls silent is asked again and again."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._newest: dict[str, ProbeLine] = {}
        self._kept_at: dict[str, float] = {}
        self._hung: dict[str, Hung] = {}
        self._looked_at = 0.0
        self._lock = threading.Lock()

    def listen(self, host: str, port: int) -> None:
        """Stays connected to one address from now on, in a thread of its own."""
        threading.Thread(target=self._stay, args=(host, port), daemon=True).start()

    def newest(self) -> list[ProbeLine]:
        """What each probe that is not silent reads now."""
        limit = time.time() - SILENT_AFTER_S
        lines = [line for line in self._newest.values() if line.at and line.at.timestamp() > limit]
        return sorted(lines, key=lambda line: line.probe)

    def take(self, text: str) -> None:
        """One line; what is no line of a probe is passed over."""
        try:
            line = ProbeLine.model_validate_json(text)
        except ValidationError:
            return
        line = line.model_copy(update={"at": datetime.now(UTC)})
        with self._lock:
            self._newest[line.probe] = line
            self._keep(line)

    def _keep(self, line: ProbeLine) -> None:
        now = time.monotonic()
        if now - self._looked_at >= LOOK_EVERY_S or not self._looked_at:
            with self._database.connection() as connection:
                self._hung = {hung.probe: hung for hung in hung_probes(connection)}
            self._looked_at = now
        hung = self._hung.get(line.probe)
        kept_at = self._kept_at.get(line.probe)
        if hung is None or line.at is None or (kept_at and now - kept_at < KEEP_EVERY_S):
            return
        reading = BathReading(at=line.at, temperature_c=line.temperature_c, ph=line.ph)
        with self._database.transaction() as connection:
            add_reading(connection, hung, reading)
        self._kept_at[line.probe] = now

    def _stay(self, host: str, port: int) -> None:
        while True:
            try:
                with socket.create_connection((host, port), timeout=SILENT_AFTER_S) as source:
                    lines = source.makefile("r", encoding="utf-8", errors="replace")
                    while text := lines.readline(LONGEST_LINE):
                        self.take(text)
            except (OSError, sqlite3.Error, Refusal):
                pass  # the probe or the file is busy elsewhere: asked again in a moment
            time.sleep(AGAIN_AFTER_S)
