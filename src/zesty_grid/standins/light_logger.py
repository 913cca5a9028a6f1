"""A simulated light logger: it lies in a window and notes the light every ten minutes."""

import csv
import io
from dataclasses import dataclass
from datetime import datetime, time, timedelta

import numpy as np

from zesty_grid.core.fade.light_record import LightSample
from zesty_grid.core.fade.window import WindowStay
from zesty_grid.core.fade.window_light import STEP_MIN, illuminance_lx

# Under passing cloud so much of a clear sky's light is left, more or less.
CLOUD_LEAVES, CLOUD_SPREAD = 0.30, 0.35
CLOUD_LASTS_STEPS = 9
NOISE = 0.03


@dataclass(frozen=True)
class Weather:
    """`sun_share` of the time is clear; days differ, and clouds last for an hour or two."""

    sun_share: float
    seed: int = 0


def log_window(stay: WindowStay, weather: Weather) -> list[LightSample]:
    """What a logger beside the pieces would note."""
    rng = np.random.default_rng(weather.seed)
    clear = illuminance_lx(stay)
    samples = []
    for number, day in enumerate(clear):
        sunny = float(np.clip(rng.normal(weather.sun_share, 0.25), 0, 1))
        if weather.sun_share in (0.0, 1.0):
            sunny = weather.sun_share
        sun = _spells(rng, len(day), sunny)
        left = np.where(sun, 1.0, CLOUD_LEAVES * np.exp(rng.normal(0, CLOUD_SPREAD, len(day))))
        seen = day * np.minimum(left, 1.1) * (1 + rng.normal(0, NOISE, len(day)))
        midnight = datetime.combine(stay.start + timedelta(number), time())
        samples += [
            LightSample(at=midnight + timedelta(minutes=STEP_MIN * (i + 0.5)), lux=max(0.0, lux))
            for i, lux in enumerate(seen)
        ]
    return samples


def logger_csv(samples: list[LightSample]) -> str:
    """The file that such a logger writes."""
    out = io.StringIO()
    writer = csv.writer(out, delimiter=";", lineterminator="\n")
    writer.writerow(["No.", "Date", "Time", "Illuminance (lux)"])
    for number, one in enumerate(samples, 1):
        writer.writerow([number, f"{one.at:%d.%m.%Y}", f"{one.at:%H:%M:%S}", f"{one.lux:.1f}"])
    return out.getvalue()


def _spells(rng: np.random.Generator, steps: int, share: float) -> np.ndarray:
    sunny = rng.random(steps // CLOUD_LASTS_STEPS + 2) < share
    return np.repeat(sunny, CLOUD_LASTS_STEPS)[:steps]
