"""Charts of other kinds than the common one: laid out, found, read and checked."""

from dataclasses import replace

import numpy as np
import pytest
from pydantic import ValidationError
from tests.cloth_spectra import cloths_on, true_lab
from tests.photographs import photograph

from zesty_grid.core.read.chart import Chart, patch24
from zesty_grid.core.read.chart_alone import measure_chart
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.sheet_layout import Sheet, lay_out_sheet, with_chart
from zesty_grid.core.refusal import Refusal
from zesty_grid.demo.station_chart import station_chart, station_spectra
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.scene import Scene

pytestmark = pytest.mark.slow

SHOT = Shot(width_px=2600, height_px=1950)


def errors_of(scene: Scene) -> np.ndarray:
    cells = measure_sheet(open_photo(photograph(scene, SHOT)), scene.sheet).cells
    return np.array(
        [delta_e_2000(true_lab(cloth), np.array(cell.lab)) for cloth, cell in zip(scene.cloths, cells, strict=True)]
    )


def test_a_chart_of_forty_patches_is_read_on_a_sheet_printed_for_it():
    sheet = lay_out_sheet("FORTY", 12, chart=station_chart())
    assert len(sheet.chart.patches) == 40
    again = Sheet.model_validate_json(sheet.model_dump_json())
    assert again.chart.chart.lab == pytest.approx(station_chart().lab, abs=1e-6)
    scene = Scene(again, cloths_on(again, 61), chart_spectra=station_spectra())
    assert np.median(errors_of(scene)) < 1.2


def test_the_common_chart_with_values_of_ones_own_is_read_by_them():
    aged = tuple(
        patch.model_copy(update={"lab": (patch.lab[0] - 1, patch.lab[1], patch.lab[2] + 2)})
        for patch in patch24().patches
    )
    sheet = with_chart(lay_out_sheet("OWN", 12), patch24().model_copy(update={"name": "mine", "patches": aged}))
    plain = lay_out_sheet("OWN", 12)
    photo = open_photo(photograph(Scene(plain, cloths_on(plain, 62)), SHOT))
    common, own = (measure_sheet(photo, one).cells for one in (plain, sheet))
    shift = np.mean([np.array(b.lab) - a.lab for a, b in zip(common, own, strict=True)], axis=0)
    assert shift == pytest.approx([-1, 0, 2], abs=0.6)


def test_a_chart_that_does_not_fit_the_sheet_is_refused():
    with pytest.raises(Refusal, match="printed for 4 rows of 6"):
        with_chart(lay_out_sheet("A", 12), station_chart())


def test_a_chart_alone_of_ones_own_is_found_at_an_angle():
    sheet = lay_out_sheet("ALONE", 1, chart=station_chart())
    scene = Scene(
        sheet, paper_present=False, chart_turn_deg=9, chart_shift_mm=(50.0, 50.0), chart_spectra=station_spectra()
    )
    found = measure_chart(open_photo(photograph(scene, replace(SHOT, exposure=0.7))), station_chart())
    errors = [delta_e_2000(np.array(patch.lab), np.array(patch.reference_lab)) for patch in found.patches]
    assert len(errors) == 40
    assert np.mean(errors) < 2.0


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"rows": 4}, "make 32 patches"),
        ({"pitch_mm": (30.0, 12.0)}, "fit on a sheet"),
        ({"patch_mm": (13.0, 10.0)}, "no wider than their pitch"),
        ({"name": "<script>"}, "name"),
    ],
)
def test_charts_that_cannot_be(change, words):
    with pytest.raises(ValidationError, match=words):
        Chart.model_validate(station_chart().model_dump() | change)


def test_a_chart_without_greys_is_refused():
    coloured = [p.model_copy(update={"lab": (50.0, 30.0, 10.0)}) for p in station_chart().patches]
    with pytest.raises(ValidationError, match="0 greys"):
        Chart.model_validate(station_chart().model_dump() | {"patches": coloured})
