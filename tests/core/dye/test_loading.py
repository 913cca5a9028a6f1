"""Who goes in: by code, label, tie or picture; wrong, missing and unknown ones are said."""

from dataclasses import replace

import cv2
import numpy as np
import pytest
import segno
from tests.bench import SMALL, USUAL
from tests.small_study import planned

from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.dye.label_scan import read_labels
from zesty_grid.core.dye.loading import who_is
from zesty_grid.core.plan.swatch_codes import label_code_text, swatch_code
from zesty_grid.core.read.picture import Picture, srgb_linear_by_code

pytestmark = pytest.mark.slow

STUDY = planned(SMALL)
BENCH = {one.name: one for one in bench_of(STUDY, USUAL)}


def ask(text: str, vessel: str = "D1", inside: tuple[str, ...] = ()):
    return who_is(text, BENCH[vessel], list(BENCH.values()), STUDY, list(inside))


def test_a_code_is_known_however_it_is_typed_and_a_label_as_it_is_scanned():
    code = BENCH["D1"].vessel.swatches[0]
    for text in (code, code.lower(), f" {code[:2]} {code[2:]} ", label_code_text(code)):
        assert ask(text).code == code
        assert ask(text).belongs
    assert ask(code, inside=(code,)).inside


def test_a_wrong_swatch_is_told_where_it_belongs_and_what_it_would_become():
    only_there = set(BENCH["D2"].vessel.swatches) - set(BENCH["D1"].vessel.swatches)
    who = ask(min(only_there))
    assert not who.belongs
    assert f"{who.code} does not belong in D1" in who.words
    assert "D2" in who.words
    assert who.counts_as.words == "ph 4, not ph 9"
    assert who.counts_as.levels == STUDY.levels(STUDY.by_code[who.code]) | {"ph": "ph-4"}


def test_a_slip_of_one_character_is_no_other_swatch():
    code = BENCH["D1"].vessel.swatches[0]
    slip = ("A" if code[0] != "A" else "C") + code[1:]
    assert ask(slip).code is None
    assert "wrong" in ask(slip).words
    assert "of no swatch of this study" in ask(swatch_code(5000)).words


def test_a_tie_names_one_swatch_of_the_whole_study():
    ties = {swatch.code: swatch.tie for swatch in STUDY.swatches}
    assert len(set(ties.values())) == len(ties)
    for vessel in ("S1", "M1", "D1", "D2", "F1"):
        for code in BENCH[vessel].vessel.swatches:
            tie = ties[code]
            for text in (tie, tie.replace("·", "."), tie.replace("·", " ")):
                assert ask(text, vessel).code == code
    assert "has the tie 4·4·4·4" in ask("4·4·4·4").words


def test_where_ties_come_again_alike_pieces_are_taken_in_turn():
    first, second = BENCH["S1"].vessel.swatches[:2]
    tie = STUDY.by_code[first].tie
    alike = [one.model_copy(update={"tie": tie}) if one.code == second else one for one in STUDY.swatches]
    study = replace(STUDY, swatches=alike)

    def named(inside: tuple[str, ...]) -> str | None:
        return who_is(tie, BENCH["S1"], list(BENCH.values()), study, list(inside)).code

    assert named(()) == first
    assert named((first,)) == second


def camera_picture(codes: list[str], seed: int) -> Picture:
    """Labels on a table as a phone sees them: turned, from the side, in uneven light, with blur,
    noise and JPEG."""
    rng = np.random.default_rng(seed)
    table = np.full((1500, 2000, 3), 150, np.uint8)
    for i, code in enumerate(codes):
        matrix = np.array(list(segno.make(label_code_text(code), micro=False).matrix), np.uint8)
        label = np.kron(np.pad(1 - matrix, 4, constant_values=1), np.ones((9, 9), np.uint8)) * 235
        turn = cv2.getRotationMatrix2D((label.shape[1] / 2, label.shape[0] / 2), rng.uniform(-25, 25), 1)
        label = cv2.warpAffine(label, turn, label.shape[::-1], borderValue=150)
        top, left = 150 + 620 * (i // 3), 130 + 620 * (i % 3)
        table[top : top + label.shape[0], left : left + label.shape[1]] = label[..., None]
    corners = np.array([[0, 0], [2000, 0], [2000, 1500], [0, 1500]], np.float32)
    seen = (corners + rng.uniform(-110, 110, (4, 2))).astype(np.float32)
    view = cv2.getPerspectiveTransform(corners, seen)
    picture = cv2.warpPerspective(table, view, (2000, 1500), borderValue=(150, 150, 150))
    light = np.linspace(1.0, 0.55, 2000)[None, :, None]
    noisy = cv2.GaussianBlur(picture, (0, 0), 1.6) * light + rng.normal(0, 6, picture.shape)
    _, data = cv2.imencode(".jpg", np.clip(noisy, 0, 255).astype(np.uint8), [cv2.IMWRITE_JPEG_QUALITY, 70])
    pixels = cv2.cvtColor(cv2.imdecode(data, cv2.IMREAD_COLOR), cv2.COLOR_BGR2RGB)
    return Picture(pixels, srgb_linear_by_code(256))


def test_labels_are_read_from_pictures_as_a_phone_takes_them():
    found = wanted = 0
    for seed in range(5):
        codes = [swatch_code(50 * seed + n) for n in range(5)]
        read = read_labels(camera_picture(codes, seed))
        assert set(read) <= set(codes)
        found, wanted = found + len(read), wanted + len(codes)
    assert found >= 0.9 * wanted


def test_a_single_label_near_is_read_and_a_picture_of_none_says_so():
    for seed in range(20, 23):
        assert read_labels(camera_picture([swatch_code(seed)], seed)) == [swatch_code(seed)]
    assert read_labels(camera_picture([], 1)) == []
