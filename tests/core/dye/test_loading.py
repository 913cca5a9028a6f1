"""Who goes in: by code, label, tie or picture; wrong, missing and unknown ones are said."""

import cv2
import numpy as np
import segno
from tests.bench import SMALL, bench_for
from tests.small_study import cells_of

from zesty_grid.core.dye.label_scan import read_labels
from zesty_grid.core.dye.loading import who_is
from zesty_grid.core.plan.swatch_codes import label_code_text, swatch_code
from zesty_grid.core.plan.swatches import swatches_of
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.plan.working_out import ties_of
from zesty_grid.core.read.picture import Picture, srgb_linear_by_code
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

BENCH = bench_for()
CELLS = cells_of(SMALL)
CODES = {place.key: swatch_code(n) for n, place in enumerate(swatches_of(CELLS, 1), 1)}
TIES = ties_of(SMALL, CELLS, vessels_of(SMALL, CELLS, STARTING_SHELF))


def ask(text: str, vessel: str = "D1", inside: tuple[str, ...] = ()):
    return who_is(text, BENCH[vessel], list(BENCH.values()), CODES, TIES, list(inside))


def test_a_code_is_known_however_it_is_typed_and_a_label_as_it_is_scanned():
    code = CODES[BENCH["D1"].vessel.swatches[0]]
    for text in (code, code.lower(), f" {code[:2]} {code[2:]} ", label_code_text(code)):
        assert ask(text).code == code
        assert ask(text).belongs
    assert ask(code, inside=(code,)).inside


def test_a_wrong_swatch_is_told_where_it_belongs():
    only_there = set(BENCH["D2"].vessel.swatches) - set(BENCH["D1"].vessel.swatches)
    code = CODES[min(only_there)]
    who = ask(code)
    assert not who.belongs
    assert f"{code} does not belong in D1" in who.words
    assert "D2" in who.words


def test_a_slip_of_one_character_is_no_other_swatch():
    code = CODES[BENCH["D1"].vessel.swatches[0]]
    slip = ("A" if code[0] != "A" else "C") + code[1:]
    assert ask(slip).code is None
    assert "wrong" in ask(slip).words
    assert "of no swatch of this study" in ask(swatch_code(5000)).words


def test_a_tie_names_one_swatch_of_the_vessel():
    for vessel in ("M1", "D1", "D2", "F1"):
        for key in BENCH[vessel].vessel.swatches:
            for text in (TIES[key], TIES[key].replace("·", "."), TIES[key].replace("·", " ")):
                assert ask(text, vessel).code == CODES[key]
    assert "has the tie 4·4·4·4" in ask("4·4·4·4").words


def test_before_the_first_mordant_alike_pieces_are_taken_in_turn():
    scour = BENCH["S1"]
    by_tie: dict[str, list[str]] = {}
    for key in scour.vessel.swatches:
        by_tie.setdefault(TIES[key], []).append(CODES[key])
    tie, codes = next((tie, codes) for tie, codes in by_tie.items() if len(codes) > 1)
    assert ask(tie, "S1").code == codes[0]
    assert ask(tie, "S1", (codes[0],)).code == codes[1]


def camera_picture(codes: list[str], seed: int) -> Picture:
    """Labels on a table as a phone sees them: turned, from the side, in uneven light, with blur,
    noise and JPEG."""
    rng = np.random.default_rng(seed)
    table = np.full((1500, 2000, 3), 150, np.uint8)
    for i, code in enumerate(codes):
        matrix = np.array(list(segno.make(label_code_text(code), micro=False).matrix), np.uint8)
        label = np.kron(np.pad(1 - matrix, 4, constant_values=1), np.ones((9, 9), np.uint8)) * 235
        turn = cv2.getRotationMatrix2D((label.shape[1] / 2, label.shape[0] / 2),
                                       rng.uniform(-25, 25), 1)  # fmt: skip
        label = cv2.warpAffine(label, turn, label.shape[::-1], borderValue=150)
        top, left = 150 + 620 * (i // 3), 130 + 620 * (i % 3)
        table[top : top + label.shape[0], left : left + label.shape[1]] = label[..., None]
    corners = np.array([[0, 0], [2000, 0], [2000, 1500], [0, 1500]], np.float32)
    seen = (corners + rng.uniform(-110, 110, (4, 2))).astype(np.float32)
    view = cv2.getPerspectiveTransform(corners, seen)
    picture = cv2.warpPerspective(table, view, (2000, 1500), borderValue=(150, 150, 150))
    light = np.linspace(1.0, 0.55, 2000)[None, :, None]
    noisy = cv2.GaussianBlur(picture, (0, 0), 1.6) * light + rng.normal(0, 6, picture.shape)
    _, data = cv2.imencode(".jpg", np.clip(noisy, 0, 255).astype(np.uint8),
                           [cv2.IMWRITE_JPEG_QUALITY, 70])  # fmt: skip
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
