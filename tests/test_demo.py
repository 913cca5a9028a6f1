"""The demo is one coherent study with something true to show in every lens."""

import base64
import io
import re
import shutil
from collections import Counter

import numpy as np
import pypdfium2
import pytest
from PIL import Image
from starlette.testclient import TestClient
from tests.conftest import ADDRESS
from tests.demo_file import demo_file
from tests.small_study import cells_of

from zesty_grid.api.application import create_application
from zesty_grid.api.packages import take_package, write_package
from zesty_grid.core.fade.trial import MULTIFIBRE
from zesty_grid.core.read.colour_space import lab_to_lch, xyz_to_lab
from zesty_grid.core.read.patch24 import spectra_to_xyz
from zesty_grid.demo.build import build_demo
from zesty_grid.demo.marsh_dyes import KEPT_DARK, piece_reflectance
from zesty_grid.demo.marsh_study import marsh_plan
from zesty_grid.store.database import Database
from zesty_grid.store.safekeeping import check


@pytest.fixture(scope="module")
def demo(tmp_path_factory) -> tuple[Database, TestClient]:
    path = tmp_path_factory.mktemp("demo") / "demo.db"
    shutil.copyfile(demo_file(), path)
    database = Database(path)
    return database, TestClient(create_application(database), base_url=ADDRESS)


def lab_of(**levels):
    full = {"fibre": "wool", "mordant": "alum-hot", "ph": "ph-7", "iron": "iron-0"} | levels
    reflectance = piece_reflectance(full, KEPT_DARK, np.random.default_rng(1))
    return xyz_to_lab(spectra_to_xyz(reflectance[None])[0])


def test_at_least_60_swatches_four_light_stages_and_three_washes_are_read(demo):
    _, client = demo
    readings = client.get("/api/studies/1/readings").json()
    assert sum(r["piece"] == "whole" for r in readings) >= 60
    light, wash, halves = client.get("/api/studies/1/trials").json()
    assert {p["stage"] for p in light["points"]} == {0, 1, 2, 3}
    assert {p["stage"] for p in wash["points"]} == {0, 1, 2}
    assert {p["stage"] for p in halves["points"]} == {0, 1, 2, 3, 4}
    late = light["state"]["stages"][3]
    assert (late["due_on"], late["on"]) == ("2026-10-12", "2026-10-15")
    assert {one["neighbour"] for one in wash["stains"]} == set(MULTIFIBRE)
    assert {one["wool"] for one in light["wools"]} == {1, 2, 3, 4}
    waiting = [p for p in client.get("/api/studies/1/photos").json() if not p["accepted"]]
    assert len(waiting) == 1


def test_the_window_the_logger_and_the_blue_wools_tell_of_one_light(demo):
    _, client = demo
    told = client.get("/api/studies/1/trials/1/dose").json()
    assert [one["name"] for one in told["sources"]] == ["Station window", "Station logger", "blue wools"]
    assert all("agree" in words for words in told["agreement"])


def test_a_place_of_ones_own_has_its_yearly_light_and_years_to_each_change(demo):
    _, client = demo
    life = client.get("/api/studies/1/trials/1/life?place=reading-room").json()
    assert life["yearly"]["low_lxh"] < life["yearly"]["dose_lxh"] < life["yearly"]["high_lxh"]
    plain = {code: years["plain"]["middle"] for code, years in life["years"].items()}
    assert any(plain.values())


def test_elderberry_fades_fast_and_alder_with_iron_hardly(demo):
    _, client = demo
    view = client.get("/api/studies/1").json()
    cell_of = {code: cell["key"] for cell in view["grid"]["cells"] for code in cell["swatches"]}
    light = client.get("/api/studies/1/trials").json()[0]
    last = [p for p in light["points"] if p["stage"] == 3]
    for point in last:
        cell = cell_of[point["swatch"]]
        if "elderberry" in cell:
            assert point["rating"] in ("1", "1-2", "2")
        if "alder-cones" in cell and "iron-1" in cell:
            assert point["rating"] in ("5", "4-5", "4")


def test_the_demos_file_is_sound_and_is_not_built_twice(demo):
    database, client = demo
    assert check(database.path) == []
    build_demo(database, lambda _: None)
    assert len(client.get("/api/studies").json()) == 5


def test_prints_are_planned_on_four_cloths_with_six_zones_each(demo):
    _, client = demo
    view = client.get("/api/studies/4").json()
    assert len(view["swatches"]) == 4
    assert len([cell for cell in view["grid"]["cells"] if cell["zone"]]) == 24
    (steamed,) = [one for one in view["vessels"] if one["process"] == "bundle-print"]
    assert [len(roll) for roll in steamed["rolls"]] == [2, 2]
    assert steamed["on_shelf"]


def test_coreopsis_turns_redder_in_alkali_and_alder_with_iron_goes_grey():
    hue = lab_to_lch(np.array([lab_of(dye="coreopsis", ph=p) for p in ("ph-4.5", "ph-9")]))[:, 2]
    assert hue[1] < hue[0] - 10
    plain, iron = lab_of(dye="alder-cones"), lab_of(dye="alder-cones", iron="iron-1")
    assert iron[0] < plain[0] - 8
    assert np.hypot(*iron[1:]) < np.hypot(*plain[1:])


def test_the_plan_crosses_what_the_scenario_says():
    counts = Counter(len(f.levels) for f in marsh_plan().factors)
    assert counts == {4: 1, 3: 3, 2: 1}
    assert len(cells_of(marsh_plan())) == 4 * 3 * 3 * 3 * 2 + 4


def test_what_is_planned_next_starts_from_a_question_and_is_not_dyed_yet(demo):
    _, client = demo
    view = client.get("/api/studies/2").json()
    assert view["plan"]["replicates"] == 2
    assert any(advice["code"] == "heat:elderberry" for advice in view["advice"])
    assert client.get("/api/studies/2/readings").json() == []
    # What it is told against has learnt from what was dyed again in other studies.
    noise = client.get("/api/studies/2/telling").json()["noise"]
    assert noise["vessel"]["repeats"] > 2
    assert 0.3 < noise["swatch"]["sd_de00"] < 0.8


def test_the_piece_that_went_into_the_wrong_pot_stands_where_it_truly_belongs(demo):
    _, client = demo
    view = client.get("/api/studies/1").json()
    (lost,) = [one for one in view["swatches"] if one["true_levels"]]
    assert (lost["levels"]["dye"], lost["true_levels"]["dye"]) == ("elderberry", "coreopsis")
    stands = [cell for cell in view["grid"]["cells"] if lost["code"] in cell["swatches"]]
    assert [cell["levels"]["dye"] for cell in stands] == ["coreopsis"]


def test_iron_on_half_of_the_yellows_darkens_them_and_leaves_the_others(demo):
    _, client = demo
    treated = client.get("/api/studies/1").json()["plan"]["treatments"][0]["swatches"]
    assert len(treated) == 3
    for code in treated:
        states = client.get(f"/api/studies/1/swatches/{code}").json()["states"]
        before, after = [one["colour"] for one in states if one["colour"]]
        assert after["lab"][0] < before["lab"][0] - 8


def test_what_was_read_damp_is_kept_and_does_not_count(demo):
    _, client = demo
    readings = client.get("/api/studies/1/readings").json()
    damp = [one for one in readings if one["damp"]]
    assert len(damp) >= 20
    assert not any(one["counts"] for one in damp)


def test_a_study_was_begun_on_the_cloth_of_the_yellows_that_were_left(demo):
    _, client = demo
    view = client.get("/api/studies/3").json()
    assert [one["study"] for one in view["comes_from"]] == [1]
    treated = client.get("/api/studies/1").json()["plan"]["treatments"][0]["swatches"]
    assert {one["parent"] for one in view["swatches"]}.isdisjoint(treated)
    assert len(view["swatches"]) == 6


def test_dyed_again_in_three_pots_the_dyes_are_told_apart(demo):
    _, client = demo
    view = client.get("/api/studies/5/compare/effects").json()["compared"]
    by = {one["factor"]: one for one in view["effects"]}
    assert by["dye"]["verdict"] == "different"
    assert by["dye"]["between"] == "dye"
    assert by["dye"]["rests_on"]["how"] == "learnt"
    assert by["dye"]["promised_de00"] > by["dye"]["shows_de00"]
    # A yellow and a pink of single pots in the autumn are told apart as well, and their range lies far from nothing.
    autumn = client.get("/api/studies/1/compare/effects").json()["compared"]["effects"]
    (pink,) = [one for one in autumn if {one["from"], one["to"]} == {"coreopsis", "elderberry"}]
    assert pink["verdict"] == "different"
    assert pink["low_de00"] > 25
    beside = client.get("/api/studies/1/compare/beside/5").json()
    assert len(beside["pairs"]) == 8
    # The stuffs are older: a little less on the cloth (made up in marsh_again.py).
    assert "lighter" in beside["words"]


def test_the_piece_in_the_wrong_pot_does_not_spoil_what_is_foretold(demo):
    _, client = demo
    view = client.get("/api/studies/1/compare/between").json()
    # An additive model of the same swatches leaves 7.4 ΔE00 in the mean.
    assert view["how_well"]["mean_de00"] < 2.5
    assert view["how_well"]["inside_95"] > 0.8


def test_a_card_shows_the_cloth_as_it_was_photographed(demo):
    _, client = demo
    pieces = client.get("/api/studies/1/coloured").json()
    piece = next(one for one in pieces if one["state"] == "after iron")
    run = piece["key"].split("@")[1]
    page = client.get(f"/api/swatches/{piece['code']}/recipe.html", params={"run": run}).text
    shot = re.search(r'src="data:image/png;base64,([^"]+)"', page)[1]
    picture = np.asarray(Image.open(io.BytesIO(base64.b64decode(shot))).convert("RGB"))
    rows, columns = picture.shape[:2]
    middle = picture[rows * 2 // 5 : rows * 3 // 5, columns * 2 // 5 : columns * 3 // 5]
    # Darker in the middle, where the cloth lies, than the paper at the rim.
    assert middle.mean() < picture[:4].mean() - 20
    assert not re.search(r'(src|href)="(?!data:)', page)
    pdf = client.get(f"/api/swatches/{piece['code']}/recipe.pdf", params={"run": run}).content
    text = " ".join(one.get_textpage().get_text_bounded() for one in pypdfium2.PdfDocument(pdf))
    assert "Where it comes from" in text


def test_the_whole_demo_goes_out_and_in_again(demo, tmp_path):
    """The same bytes, but for the moment of writing; and the same on every screen."""
    database, client = demo
    write_package(database, [], tmp_path / "out")
    other = Database(tmp_path / "other.db")
    take_package(other, tmp_path / "out", "out")
    assert check(other.path) == []
    write_package(other, [], tmp_path / "again")
    for path in (tmp_path / "out").rglob("*.*"):
        if path.name != "datapackage.json":
            again = tmp_path / "again" / path.relative_to(tmp_path / "out")
            assert path.read_bytes() == again.read_bytes(), path
    there = TestClient(create_application(other), base_url=ADDRESS)
    for path in ("/api/studies/1/colours", "/api/studies/1/compare/between", "/api/today"):
        assert there.get(path).json() == client.get(path).json(), path
