"""Simulated bath probes: lines of JSON over a socket, one a second for each probe, as a real one.

Each acts out a small story at true speed: warming and holding, drifting back to neutral, boiling
by mistake, cooling too steeply.
"""

import json
import socketserver
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from math import exp

import numpy as np

ROOM_C = 20.0
PERIOD_S = 1.0


@dataclass(frozen=True)
class Story:
    """What a probe reads so many minutes after the start: temperature in °C, and pH or None."""

    name: str
    temperature_c: Callable[[float], float]
    ph: Callable[[float], float | None]


def warming(goal_c: float, start_c: float = 38.0, c_per_min: float = 1.0) -> Callable[[float], float]:
    """Rises evenly, then is held with the small swings of a thermostat."""

    def at(minutes: float) -> float:
        if start_c + c_per_min * minutes < goal_c:
            return start_c + c_per_min * minutes
        return float(goal_c + 0.8 * np.sin(minutes / 1.7))

    return at


def drifting(ph: float, per_hour: float = 0.35) -> Callable[[float], float | None]:
    """A set bath goes back towards neutral: the distance shrinks by a share an hour."""
    return lambda minutes: 7.0 + (ph - 7.0) * exp(-per_hour * minutes / 60)


def boiling_by_mistake(minutes: float) -> float:
    """Nobody turns it down: past the goal, to the boil."""
    return min(99.4, 70.0 + 2.5 * minutes)


def cooled_in_a_hurry(minutes: float) -> float:
    return ROOM_C + 60.0 * exp(-minutes / 12)


def _unread(_: float) -> float | None:
    return None


STORIES = (
    Story("Probe A", warming(82), _unread),
    Story("Probe B", warming(80, start_c=79), drifting(9.0)),
    Story("Probe C", boiling_by_mistake, _unread),
    Story("Probe D", cooled_in_a_hurry, _unread),
)


def lines(stories: tuple[Story, ...], minutes: float, at: datetime, rng: np.random.Generator) -> Iterator[str]:
    """What all probes say at one moment, with the noise of a cheap sensor."""
    for story in stories:
        ph = story.ph(minutes)
        said = {
            "probe": story.name,
            "at": at.isoformat(timespec="milliseconds"),
            "temperature_c": round(story.temperature_c(minutes) + float(rng.normal(0, 0.1)), 1),
        }
        if ph is not None:
            said["ph"] = round(ph + float(rng.normal(0, 0.02)), 2)
        yield json.dumps(said)


class ProbeServer(socketserver.ThreadingTCPServer):
    """Sends every line to whoever is connected, until it is closed."""

    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, stories: tuple[Story, ...] = STORIES, port: int = 0, period_s: float = PERIOD_S) -> None:
        self.stories, self.period_s, self.began = stories, period_s, time.monotonic()
        super().__init__(("127.0.0.1", port), _Send)

    @property
    def address(self) -> tuple[str, int]:
        host, port = self.server_address[:2]
        return str(host), int(port)


class _Send(socketserver.StreamRequestHandler):
    server: ProbeServer

    def handle(self) -> None:
        rng = np.random.default_rng(7)
        try:
            while True:
                minutes = (time.monotonic() - self.server.began) / 60
                for line in lines(self.server.stories, minutes, datetime.now(UTC), rng):
                    self.wfile.write(f"{line}\n".encode())
                time.sleep(self.server.period_s)
        except OSError:
            return


def start_probes(server: ProbeServer | None = None) -> tuple[str, int]:
    """Starts the simulated probes in the background; answers with where they are."""
    probes = server or ProbeServer()
    threading.Thread(target=probes.serve_forever, daemon=True).start()
    return probes.address
