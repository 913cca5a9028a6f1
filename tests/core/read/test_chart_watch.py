"""A chart that fades or yellows over months is told from one that does not."""

from dataclasses import replace

import numpy as np
import pytest
from tests.cloth_spectra import dyed
from tests.photographs import photograph

from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.chart_watch import ChartPhoto, watch_chart
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import ChartFault, Scene

pytestmark = pytest.mark.slow

SHEET = lay_out_sheet("WATCH", 2)
SHOT = Shot(width_px=1800, height_px=1350)
SOUND = ChartFault()


def photo_of(fault: ChartFault, month: int, **shot) -> ChartPhoto:
    rng = np.random.default_rng(month)
    scene = Scene(SHEET, (Cloth("A1", dyed(rng), 0.8),), chart_fault=fault)
    data = photograph(scene, replace(SHOT, seed=month, **shot))
    found = measure_sheet(open_photo(data), SHEET).calibration
    return ChartPhoto(
        taken_on=f"2026-{month:02d}-15", camera=found.camera, response=found.response, patch_light=found.patch_light
    )


@pytest.fixture(scope="module")
def sound() -> list[ChartPhoto]:
    return [photo_of(SOUND, month) for month in range(1, 10)]


def test_a_sound_chart_has_not_moved(sound):
    (watch,) = watch_chart(patch24(), sound)
    assert (watch.photos, watch.since, watch.until) == (9, "2026-01-15", "2026-09-15")
    assert not any(one.is_real for one in watch.patches)
    assert watch.words == "No patch has moved by more than chance."


@pytest.mark.parametrize("fault", [ChartFault(bleached=0.4), ChartFault(yellowed=0.1)])
def test_a_chart_that_fades_or_yellows_is_told(sound, fault):
    later = [photo_of(fault, month) for month in (10, 11, 12)]
    (watch,) = watch_chart(patch24(), [*sound[:6], *later])
    moved = [one for one in watch.patches if one.is_real]
    assert len(moved) >= 3
    assert "since 2026-01-15" in watch.words


def test_few_photos_and_other_cameras_tell_nothing(sound):
    assert watch_chart(patch24(), sound[:5]) == []
    mixed = [*sound[:5], photo_of(SOUND, 10, camera="B"), photo_of(SOUND, 11, light="tungsten")]
    assert watch_chart(patch24(), mixed) == []
    # A chart of another size is no part of it.
    short = sound[0].model_copy(update={"patch_light": sound[0].patch_light[:10]})
    assert len(watch_chart(patch24(), [*sound, short])) == 1
