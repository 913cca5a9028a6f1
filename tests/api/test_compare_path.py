"""Compare through the API: effects, table, chart, search, recipes, next study, report."""

import csv
import io
import re

import numpy as np
import pypdfium2
import pytest
from PIL import Image
from tests.api.test_areas import CLOTHS, SHOT, bare
from tests.cloth_spectra import true_lab as seen_lab
from tests.compared_studies import seeded_study, true_lab
from tests.small_study import small_plan

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import hex_to_lab


@pytest.fixture
def study(client, database) -> tuple[int, dict[str, str]]:
    return seeded_study(database)


def at(study, rest):
    return f"/api/studies/{study[0]}/compare/{rest}"


def key_of(client, study, cell) -> str:
    pieces = client.get(f"/api/studies/{study[0]}/coloured").json()
    return next(one["key"] for one in pieces if one["code"] == study[1][cell])


WEAK = "fibre=wool;mordant=alum-hot;dye=dried-flowers;strength=strength-25;iron=iron-0"
STRONG = WEAK.replace("strength-25", "strength-100")


def test_effects_come_with_their_verdict_words_and_what_was_foretold(client, study):
    view = client.get(at(study, "effects")).json()
    by = {(one["factor"], one["to"]): one for one in view["compared"]["effects"]}
    fibre = by["fibre", "cotton"]
    assert fibre["verdict"] == "different"
    assert fibre["between"] is None
    iron = by["iron", "iron-1"]
    assert iron["verdict"] == "different"
    said = [one["words"] for one in view["statements"]]
    assert any(words.startswith("Iron 1 is darker") for words in said)
    assert any("lighter" in words for words in view["effect_words"])
    assert view["words"]["iron=iron-1"] == "iron 1"
    # Every effect is in one sentence, and in one only.
    assert sorted(i for one in view["statements"] for i in one["effects"]) == list(
        range(len(view["compared"]["effects"]))
    )


def test_which_of_two_ways_keeps_more_is_answered_from_a_level_or_a_state(client, study):
    asked = {"factor": "iron", "start": "iron-0", "one": "iron-0", "other": "iron-1"}
    ways = client.get(at(study, "ways"), params=asked).json()
    assert ways["combinations"] > 0
    assert ways["one_de00"] == 0
    assert ways["other_de00"] == pytest.approx(ways["further_de00"])
    assert ways["verdict"] == "different"
    for start in ("iron-7", "state:never"):
        nothing = client.get(at(study, "ways"), params=asked | {"start": start}).json()
        assert nothing["combinations"] == 0


def test_what_tell_promised_when_the_first_bath_began_stands_beside_what_came_out(client):
    number = client.post("/api/studies", json=small_plan()).json()["id"]
    before = client.get(f"/api/studies/{number}/telling").json()
    assert before["promised"] is None
    vessel = client.get(f"/api/studies/{number}/dye").json()["vessels"][0]
    entry = {"vessel": vessel["vessel"]["name"], "step": "fill", "kind": "done"}
    assert client.post(f"/api/studies/{number}/dye/entries", json=entry).status_code == 201
    plan = client.get(f"/api/studies/{number}").json()
    changed = plan["plan"] | {"noise": {"swatch_de00": 5, "vessel_de00": 9, "day_de00": 5, "reading_de00": 2}}
    body = {"revision": plan["revision"], "plan": changed}
    assert client.put(f"/api/studies/{number}", json=body).status_code == 200
    after = client.get(f"/api/studies/{number}/telling").json()
    promised = {(one["factor"], one["from_level"], one["to_level"]): one["shows_de00"] for one in after["promised"]}
    for effect in before["effects"]:
        for pair in effect["pairs"]:
            key = (effect["factor"], pair["from_level"], pair["to_level"])
            assert promised[key] == pytest.approx(pair["shows_de00"])
    assert "When the first bath began: from" in after["effects"][0]["words"]
    # What it could tell now is another figure: the promise is kept.
    assert after["effects"][0]["smallest_difference_de00"] > before["effects"][0]["smallest_difference_de00"]


def test_unread_studies_have_no_effects(client):
    number = client.post("/api/studies", json=small_plan()).json()["id"]
    assert client.get(f"/api/studies/{number}/compare/effects").json()["compared"] is None
    next_test = client.post(f"/api/studies/{number}/compare/next", json={"factor": "fibre"})
    assert next_test.status_code == 422
    assert next_test.json()["type"].endswith("too-few-read")
    assert client.get(f"/api/studies/{number}/compare/unevenness").json() == []
    assert client.get(f"/api/studies/{number}/compare/fading").json() == []
    assert client.get(f"/api/studies/{number}/compare/chart").json()["points"] == []
    assert client.get(f"/api/studies/{number}/compare/between").json()["how_well"] is None
    assert client.get(f"/api/studies/{number}/compare/odd").json()["misfits"] == []
    refused = client.post(f"/api/studies/{number}/compare/foretell", json={"levels": {"fibre": "wool"}})
    assert refused.status_code == 422
    assert client.get(f"/api/studies/{number}/report.pdf").status_code == 200


def test_a_table_is_laid_kept_changed_taken_away_and_put_back(client, study, database):
    other = seeded_study(database, seed=5, shift=(2.0, 0, 0))
    keys = [key_of(client, study, WEAK), key_of(client, other, WEAK), key_of(client, study, STRONG)]
    table = {"name": "Weak beside weak", "keys": keys, "ground": "dark", "undyed": True}
    look = client.post("/api/tables/look", json=table).json()
    assert [one["key"] for one in look["pieces"]] == keys
    assert look["neighbours"][0]["words"].startswith("lighter")
    assert look["neighbours"][0]["distinguishable"]
    assert look["undyed"]
    kept = client.post("/api/tables", json=table).json()["id"]
    client.put(f"/api/tables/{kept}", json=table | {"name": "Renamed"})
    assert client.get(f"/api/tables/{kept}").json()["table"]["name"] == "Renamed"
    client.delete(f"/api/tables/{kept}")
    assert client.get(f"/api/tables/{kept}").status_code == 404
    assert client.get("/api/tables").json() == []
    client.post(f"/api/tables/{kept}/restore")
    assert [one["id"] for one in client.get("/api/tables").json()] == [kept]
    pdf = client.post("/api/tables/print", json=table)
    page = pypdfium2.PdfDocument(pdf.content)[0]
    assert "Weak beside weak" in page.get_textpage().get_text_bounded()
    # The cloth is printed in the colour that was read.
    shot = np.asarray(page.render(scale=1).to_pil().convert("RGB"))
    wanted = tuple(int(look["pieces"][0]["hex"][i : i + 2], 16) for i in (1, 3, 5))
    assert (np.abs(shot.astype(int) - wanted).max(axis=2) <= 1).sum() > 5000


def test_what_is_gone_from_a_table_is_said(client, study):
    key = key_of(client, study, WEAK)
    look = client.post("/api/tables/look", json={"name": "T", "keys": [key, "ZZZZ@9"]}).json()
    assert look["missing"] == ["ZZZZ@9"]
    wrong = client.post("/api/tables/look", json={"name": "T", "keys": ["no key"]})
    assert wrong.status_code == 422
    assert "names nothing" in wrong.json()["title"]


def test_a_run_again_lies_beside_the_first_with_what_differs(client, study, database):
    other = seeded_study(database, seed=9, shift=(1.5, 0, 0), swatch_mass_g=10)
    found = client.get(at(study, f"beside/{other[0]}")).json()
    assert len(found["pairs"]) == 12
    assert found["shift_de00"] == pytest.approx(1.5, abs=0.4)
    assert {"what": "Swatch", "first": "6 g", "second": "10 g"} in found["differs"]
    assert "lighter" in found["words"]


def test_the_chart_has_every_swatch_its_doubt_and_the_arrows_of_each_factor(client, study):
    chart = client.get(at(study, "chart")).json()
    assert len(chart["points"]) == 24
    iron = [one for one in chart["arrows"] if one["factor"] == "iron"]
    assert len(iron) == 6
    labs = {one["code"]: one["lab"] for one in chart["points"]}
    assert all(labs[one["to_code"]][0] < labs[one["from_code"]][0] for one in iron)
    assert all(one["ab"]["first"] > 0 for one in chart["points"])


def test_a_profile_of_two_factors_has_ranges(client, study):
    params = {"first": "strength", "second": "iron"}
    found = client.get(at(study, "profile"), params=params).json()
    assert len(found["points"]) == 6
    assert all(one["lightness_off"] > 0 for one in found["points"])
    plain = [one["lab"][0] for one in found["points"] if one["second"] == "iron-0"]
    assert plain == sorted(plain, reverse=True)
    assert client.get(at(study, "profile"), params={"first": "x", "second": "y"}).json()["points"] == []


def test_a_colour_is_found_with_its_facts_and_filters(client, study):
    lab = [float(value) for value in true_lab("wool", 100, 0)]
    view = client.post("/api/find", json={"lab": lab}).json()
    best = view["found"][0]
    assert best["de00"] < 1.5
    assert best["piece"]["levels"]["strength"] == "strength-100"
    assert best["gentle"]["iron"] is False
    cotton = client.post("/api/find", json={"lab": lab, "fibres": ["cotton"]}).json()
    assert {one["piece"]["fibre"] for one in cotton["found"]} == {"cotton"}
    gentle = client.post("/api/find", json={"lab": lab, "gentle": True}).json()["found"]
    # All were mordanted hot: only undyed cloth is gentle.
    assert {one["piece"]["kind"] for one in gentle} <= {"control"}
    lasting = {"place": "museum", "years": 10, "within_de00": 2}
    view = client.post("/api/find", json={"lab": lab, "lasting": lasting}).json()
    assert view["found"] == []
    assert view["lasting_unknown"] == view["searched"]
    wrong = client.post("/api/find", json={"lab": lab, "lasting": lasting | {"place": "moon"}})
    assert wrong.status_code == 404


def test_a_reference_cloth_is_found_and_looked_for(client, study):
    item = {"kind": "cloth", "key": "old-skein", "name": "An old skein"}
    assert client.post("/api/shelf", json=item).status_code == 201
    typed = {"lightness": 70.0, "a": 5.0, "b": 50.0}
    client.post("/api/cloths/old-skein/readings", json=typed)
    view = client.post("/api/find", json={"lab": [70, 5, 50]}).json()
    assert view["found"][0]["piece"]["name"] == "An old skein"
    near = client.post("/api/find", json={"key": "cloth:old-skein"}).json()
    assert near["lab"] == pytest.approx([70, 5, 50])
    assert near["found"][0]["piece"]["kind"] != "cloth"
    assert client.post("/api/find", json={"key": "cloth:nothing"}).status_code == 404


def test_the_colour_of_an_object_beside_a_chart_is_taken_where_it_is_clicked(client):
    photo, where = bare()
    for cloth in CLOTHS[:2]:
        x, y = np.mean(where[cloth.cell], axis=0) / (SHOT.width_px, SHOT.height_px)
        cell = client.post("/api/find/photo", params={"x": x, "y": y}, files={"photo": ("o.jpg", photo)}).json()
        apart = float(delta_e_2000(np.array(cell["lab"]), seen_lab(cloth)))
        assert apart < 3 * cell["uncertainty_de00"]
        assert apart < 5
    no_picture = client.post("/api/find/photo", params={"x": 0.5, "y": 0.5}, files={"photo": ("o.txt", b"no picture")})
    assert no_picture.status_code == 422


def test_a_photo_that_no_browser_shows_comes_as_one_that_it_does(client):
    photo, _ = bare("HEIC")
    shown = client.post("/api/find/photo/image", files={"photo": ("o.heic", photo)})
    assert shown.headers["content-type"] == "image/jpeg"
    with Image.open(io.BytesIO(shown.content)) as picture:
        assert picture.width / picture.height == pytest.approx(SHOT.width_px / SHOT.height_px, rel=0.01)
    refused = client.post("/api/find/photo/image", files={"photo": ("o.heic", photo[:200])})
    assert refused.status_code == 422


def test_a_recipe_is_scaled_and_printed(client, study):
    code = study[1][STRONG]
    small = client.get(f"/api/swatches/{code}/recipe", params={"mass_g": 50}).json()
    large = client.get(f"/api/swatches/{code}/recipe", params={"mass_g": 500}).json()
    grams = {mass: {one["name"]: one["grams"] for one in view["needed"]} for mass, view in ((50, small), (500, large))}
    # 15 % WOF of alum (the default route), 100 % of dye stuff: worked out by hand.
    assert grams[50]["potassium alum"] == pytest.approx(7.5)
    assert grams[500]["potassium alum"] == pytest.approx(75)
    assert any(value == pytest.approx(50) for value in grams[50].values())
    assert small["logged"] is False
    pdf = client.get(f"/api/swatches/{code}/recipe.pdf", params={"mass_g": 50}).content
    document = pypdfium2.PdfDocument(pdf)
    text = " ".join(page.get_textpage().get_text_bounded() for page in document)
    assert "For 50 g of dry Wool" in text
    # From scouring on, each caution once.
    for words in ("1. Scour", "Fill the vessel", "mesh bag", "Enter the pieces", "Hang"):
        assert words in text, words
    assert text.count("dust mask") == 1
    assert "sRGB" in text
    page = client.get(f"/api/swatches/{code}/recipe.html").text
    assert "<script" not in page
    assert not re.search(r"(src|href)=", page)
    assert client.get("/api/swatches/ZZZZ/recipe").status_code == 404
    assert client.get(f"/api/swatches/{code}/recipe", params={"mass_g": -1}).status_code == 422


def test_a_recipe_between_is_foretold_and_cells_not_read_have_their_colour(client, database):
    left_out = STRONG.replace("wool", "cotton")
    study = seeded_study(database, left_out=[left_out])
    view = client.get(at(study, "between")).json()
    assert view["how_well"]["mean_de00"] < 2
    (cell,) = view["cells"]
    assert cell["cell"] == left_out
    apart = delta_e_2000(np.array(cell["colour"]["lab"]), true_lab("cotton", 100, 0))
    assert float(apart) < 2.5
    recipe = {"levels": {"fibre": "wool", "strength": "strength-50", "iron": "iron-0"}, "numbers": {"strength": 70}}
    one = client.post(at(study, "foretell"), json=recipe).json()
    assert float(delta_e_2000(np.array(one["lab"]), true_lab("wool", 70, 0))) < 2


def test_what_is_not_settled_becomes_a_study_and_a_colour_too(client, study):
    asked = {"factor": "iron", "from_level": "iron-0", "to_level": "iron-1", "tell_de00": 6}
    found = client.post(at(study, "next"), json=asked).json()
    assert found["tells_de00"] <= 6
    made = client.post("/api/studies", json=found["plan"]).json()["id"]
    swatches = client.get(f"/api/studies/{made}").json()["swatches"]
    assert len(swatches) == found["swatches"]
    wanted = [float(value) for value in true_lab("cotton", 70, 0)]
    found = client.post(at(study, "next"), json={"wanted": {"lab": wanted}, "most": 3}).json()
    best = found["foretold"][0]
    assert float(delta_e_2000(np.array(best["lab"]), np.array(wanted))) < 2.5
    made = client.post("/api/studies", json=found["plan"]).json()["id"]
    assert len(client.get(f"/api/studies/{made}").json()["swatches"]) == found["swatches"]
    nothing = client.post(at(study, "next"), json={})
    assert nothing.status_code == 422
    assert client.post(at(study, "next"), json={"factor": "x"}).status_code == 404


def test_the_report_tells_the_question_the_grid_and_what_is_real(client, study):
    page = client.get(f"/api/studies/{study[0]}/report.html").text
    assert "Does it work?" in page
    assert "What is real" in page
    assert "<script" not in page
    assert not re.search(r"(src|href)=", page)
    pdf = pypdfium2.PdfDocument(client.get(f"/api/studies/{study[0]}/report.pdf").content)
    text = " ".join(one.get_textpage().get_text_bounded() for one in pdf)
    assert "The grid in colour" in text
    assert "sRGB" in text
    for code in study[1].values():
        assert code in text


def test_words_of_a_person_stay_words_in_what_goes_out(client, database):
    hostile = '<img src=x onerror=1>=HYPERLINK("x")'
    study = seeded_study(database, name="=1+1", question=hostile)
    page = client.get(f"/api/studies/{study[0]}/report.html").text
    assert "<img" not in page
    rows = list(csv.DictReader(io.StringIO(client.get(f"/api/studies/{study[0]}/colours.csv").text)))
    assert {row["study"] for row in rows} == {"'=1+1"}
    assert len(rows) == len(study[1])


def test_palettes_carry_the_colours_that_were_read(client, study):
    base = f"/api/studies/{study[0]}/palette"
    css = client.get(f"{base}.css").text
    code = study[1][STRONG]
    shown = re.search(rf"--{code.lower()}: (#[0-9a-f]{{6}});", css)[1]
    exact = re.search(rf"--{code.lower()}: lab\(([\d.]+)% ([-\d.]+) ([-\d.]+)\);", css)
    lab = np.array([float(value) for value in exact.groups()])
    assert float(delta_e_2000(hex_to_lab(shown[1:]), lab)) < 1
    svg = client.get(f"{base}.svg", params={"codes": code}).text
    assert svg.count("<rect") == 1
    assert shown in svg
    assert client.get(f"{base}.txt").text.count("\n") == len(study[1])
    assert client.get(f"{base}.exe").status_code == 404


def test_a_make_up_run_fills_the_gap_that_it_mends(client, database):
    lost = STRONG.replace("wool", "cotton")
    study = seeded_study(database, left_out=[lost])
    again = seeded_study(database, seed=4, name="Strengths, make-up")
    plain = client.get(at(study, "effects")).json()["compared"]
    mended = client.get(at(study, "effects"), params={"filled": again[0]}).json()["compared"]
    # Two runs of the one recipe that was not dyed here; none of those that were.
    assert mended["swatches"] == plain["swatches"] + 2
    points = client.get(at(study, "chart"), params={"filled": again[0]}).json()["points"]
    filling = [one for one in points if one["cell"] == lost]
    assert {one["code"] for one in filling} == {code for cell, code in again[1].items() if cell.split("#")[0] == lost}
    # A study fills no gap of its own, and one that is not there is said.
    own = client.get(at(study, "effects"), params={"filled": study[0]}).json()["compared"]
    assert own["swatches"] == plain["swatches"]
    assert client.get(at(study, "effects"), params={"filled": 99}).status_code == 404


def test_pieces_are_found_by_words_of_name_recipe_state_and_colour(client, study):
    def found(**asked):
        return client.get(f"/api/studies/{study[0]}/coloured", params=asked).json()

    every = found()
    assert len(found(most=3)) == 3
    code = study[1][WEAK]
    assert {one["code"] for one in found(codes=code)} == {code}
    one = next(one for one in every if one["code"] == code)
    for words in (code.lower(), one["words"], f"{one['colour_words']} {code}"):
        assert code in {piece["code"] for piece in found(text=words)}
    assert found(text="nothing is called so") == []
    assert client.get(f"/api/studies/{study[0]}/coloured", params={"codes": "a b"}).status_code == 422
