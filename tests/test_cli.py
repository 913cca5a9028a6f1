"""The console script: stable verbs and file formats, JSON out, status 2 on errors."""

import io
import json
import sys
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from tests.cloth_spectra import cloths_on, true_lab
from tests.photographs import photograph
from tests.seeded_readings import new_study
from tests.small_study import small_plan

from zesty_grid.cli import main
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.demo.station_chart import station_chart, station_spectra
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Motif
from zesty_grid.standins.scene import Scene
from zesty_grid.store.database import Database
from zesty_grid.store.opening import open_data
from zesty_grid.store.shelf import stock_shelf

SHOT = Shot(width_px=2400, height_px=1800)


def run(capsys, *arguments: object) -> dict:
    main([str(a) for a in arguments])
    return json.loads(capsys.readouterr().out)


def refused(capsys, *arguments: object) -> dict:
    with pytest.raises(SystemExit) as stopped:
        main([str(a) for a in arguments])
    assert stopped.value.code == 2
    return json.loads(capsys.readouterr().err)


@pytest.fixture
def sheet_folder(tmp_path: Path, capsys) -> Path:
    run(capsys, "sheet", "--cells", 12, "--out", tmp_path / "page")
    return tmp_path / "page"


def test_sheet_writes_the_three_files(sheet_folder):
    assert (sheet_folder / "sheet.pdf").read_bytes().startswith(b"%PDF")
    with Image.open(sheet_folder / "sheet.png") as image:
        # A4 at 300 dpi is 3508 × 2480 pixels.
        assert image.size == (pytest.approx(3508, abs=2), pytest.approx(2480, abs=2))
        assert image.info["dpi"][0] == pytest.approx(300, abs=0.1)
    said = json.loads((sheet_folder / "sheet.json").read_text())
    assert (said["format"], said["version"]) == ("zesty-grid/sheet", 1)
    assert len(said["cells"]) == 12
    assert said["markers"][2]["id"] == 2


def test_measure_answers_in_the_promised_format(sheet_folder, tmp_path, capsys):
    sheet = Sheet.model_validate_json((sheet_folder / "sheet.json").read_text())
    scene = Scene(sheet, cloths_on(sheet, 3)[:9])
    (tmp_path / "photo.jpg").write_bytes(photograph(scene, SHOT))
    said = run(capsys, "measure", tmp_path / "photo.jpg", "--sheet", sheet_folder / "sheet.json")
    assert (said["format"], said["version"]) == ("zesty-grid/measurement", 1)
    calibration = said["calibration"]
    assert (calibration["illuminant"], calibration["observer"]) == ("D50", "2")
    assert set(calibration["residual_de00"]) == {"mean", "p95", "max"}
    assert [cell["status"] for cell in said["cells"]] == ["measured"] * 9 + ["empty"] * 3
    for cloth, cell in zip(scene.cloths, said["cells"], strict=False):
        assert delta_e_2000(true_lab(cloth), np.array(cell["lab"])) < 5
        assert cell["hex"].startswith("#")
        assert cell["uncertainty_de00"] > 0
        assert cell["levelness_de00"] >= 0


def test_measure_a_chart_alone(sheet_folder, tmp_path, capsys):
    sheet = Sheet.model_validate_json((sheet_folder / "sheet.json").read_text())
    scene = Scene(sheet, paper_present=False, chart_turn_deg=12, chart_shift_mm=(60, 55))
    shot = replace(SHOT, light="tungsten", exposure=0.6, fill=1.2, tilt=0.1)
    (tmp_path / "chart.png").write_bytes(photograph(scene, shot, "PNG"))
    said = run(capsys, "measure", tmp_path / "chart.png", "--chart", "patch24")
    assert "cells" not in said
    assert len(said["patches"]) == 24
    assert said["patches"][0]["name"] == "dark brown"
    errors = [float(delta_e_2000(np.array(p["lab"]), np.array(p["reference_lab"]))) for p in said["patches"]]
    assert np.mean(errors) < 2


def test_errors_go_to_stderr_in_words(sheet_folder, tmp_path, capsys):
    text = tmp_path / "note.jpg"
    text.write_text("no photo")
    said = refused(capsys, "measure", text, "--sheet", sheet_folder / "sheet.json")
    assert said["code"] == "not-a-photo"
    assert refused(capsys, "measure", tmp_path / "none.jpg", "--chart", "patch24")["detail"]
    (tmp_path / "odd.json").write_text("{}")
    (tmp_path / "ok.jpg").write_bytes(
        photograph(Scene(Sheet.model_validate_json((sheet_folder / "sheet.json").read_text())), SHOT)
    )
    said = refused(capsys, "measure", tmp_path / "ok.jpg", "--sheet", tmp_path / "odd.json")
    assert said["code"] == "invalid"
    assert "1 to 24" in refused(capsys, "sheet", "--cells", 99, "--out", tmp_path)["title"]


def test_backup_and_check(tmp_path, capsys):
    Database(tmp_path / "grid.db")
    said = run(capsys, "backup", tmp_path / "copy.db", "--data", tmp_path / "grid.db")
    assert said["faults"] == []
    assert run(capsys, "check", "--data", tmp_path / "copy.db")["faults"] == []
    (tmp_path / "copy.db").write_bytes(b"broken" * 1000)
    with pytest.raises(SystemExit):
        main(["check", "--data", str(tmp_path / "copy.db")])
    assert "no-such-file" in refused(capsys, "check", "--data", tmp_path / "none.db")["code"]


def test_python_is_the_promised_one():
    assert sys.version_info >= (3, 11)


PH_QUESTION = {
    "volume_l": 2,
    "water": {"ph": 7.5, "alkalinity_mg_l_caco3": 120},
    "solutes": [],
    "target_ph": 9,
    "adjust_with": "soda_ash",
}


def written(folder: Path, document: dict) -> Path:
    path = folder / "in.json"
    path.write_text(json.dumps(document))
    return path


def test_ph_answers_in_the_promised_format_from_a_file_and_from_stdin(tmp_path, capsys, monkeypatch):
    said = run(capsys, "ph", written(tmp_path, PH_QUESTION))
    assert {"grams", "ph_before", "ph_after", "warnings"} <= set(said)
    assert said["ph_before"] == pytest.approx(7.5, abs=0.01)
    assert said["ph_after"] == pytest.approx(9, abs=0.01)
    monkeypatch.setattr("sys.stdin", io.StringIO(json.dumps(PH_QUESTION)))
    assert run(capsys, "ph") == said


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"target_ph": 13.5, "adjust_with": "baking_soda"}, "ph-out-of-reach"),
        ({"volume_l": 0}, "invalid"),
        ({"adjust_with": "moonlight"}, "invalid"),
    ],
)
def test_ph_refuses_in_words(tmp_path, capsys, change, code):
    assert refused(capsys, "ph", written(tmp_path, PH_QUESTION | change))["code"] == code
    assert refused(capsys, "ph", tmp_path / "none.json")["code"] == "file"


def test_plan_and_weigh_do_what_the_screens_do(tmp_path, capsys):
    plan = written(tmp_path, small_plan())
    said = run(capsys, "plan", plan)
    assert len(said["grid"]["cells"]) == len(said["swatches"]) == 18
    assert [v["name"] for v in said["vessels"]] == ["M1", "D1", "D2", "F1"]
    assert {e["factor"] for e in said["telling"]["effects"]} == {"fibre", "mordant", "ph", "iron"}
    thinned = run(capsys, "plan", plan, "--swatches", 12)
    assert thinned["thinned"]["cells"] == 10
    assert sum(c["included"] for c in thinned["grid"]["cells"]) == 12
    papers = run(capsys, "weigh", plan, "--out", tmp_path / "out")
    assert papers["format"] == "zesty-grid/bench"
    assert {path.name for path in (tmp_path / "out").iterdir()} == {
        "bench.pdf",
        "bench.json",
        "swatches.csv",
        "amounts.csv",
        "cut-list.csv",
    }
    assert refused(capsys, "plan", written(tmp_path, {"name": ""}))["code"] == "invalid"
    assert refused(capsys, "weigh", plan, "--data", tmp_path / "no.db")["code"] == "invalid"


@pytest.fixture(scope="module")
def joined_files(tmp_path_factory) -> Path:
    """A sheet printed for a chart of one's own, and two photos of it."""
    folder = tmp_path_factory.mktemp("joined")
    (folder / "forty.json").write_text(station_chart().model_dump_json())
    main(["sheet", "--chart", str(folder / "forty.json"), "--out", str(folder)])
    sheet = Sheet.model_validate_json((folder / "sheet.json").read_text())
    cloths = list(cloths_on(sheet, 4))
    cloths[0] = replace(cloths[0], motifs=(Motif("half", cloths[5].reflectance, 0.4),))
    scene = Scene(sheet, tuple(cloths), chart_spectra=station_spectra())
    for n, light in enumerate(("daylight D65", "LED")):
        data = photograph(scene, replace(SHOT, light=light, seed=n))
        (folder / f"photo{n}.jpg").write_bytes(data)
    return folder


def test_measure_joins_photos_and_says_how_they_agree(capsys, joined_files):
    photos = [joined_files / f"photo{n}.jpg" for n in range(2)]
    answer = run(capsys, "measure", *photos, "--sheet", joined_files / "sheet.json")
    assert [photo["name"] for photo in answer["photos"]] == ["photo0.jpg", "photo1.jpg"]
    assert len(answer["patches"]) == 40
    assert all(cell["agreement_de00"] >= 0 for cell in answer["cells"])
    assert all(cell["zones"] == [] for cell in answer["cells"])


def test_measure_adds_the_zones_of_each_cell(capsys, joined_files):
    photo, sheet = joined_files / "photo0.jpg", joined_files / "sheet.json"
    cells = run(capsys, "measure", photo, "--sheet", sheet, "--zones")["cells"]
    assert [len(cell["zones"]) for cell in cells] == [2, *[1] * 11]
    promised = {"zone", "share", "lab", "hex", "uncertainty_de00", "outline_px"}
    assert promised <= set(cells[0]["zones"][0])
    assert "more than one colour" in cells[0]["flags"]


def test_measure_refuses_a_photo_of_another_sheet(capsys, joined_files, tmp_path):
    run(capsys, "sheet", "--out", tmp_path, "--chart", joined_files / "forty.json")
    photo = joined_files / "photo0.jpg"
    said = refused(capsys, "measure", photo, "--sheet", tmp_path / "sheet.json")
    assert "The photo shows sheet" in json.dumps(said)


def test_photos_without_a_sheet_are_asked_for_one(capsys, joined_files):
    said = refused(capsys, "measure", joined_files / "photo0.jpg")
    assert "Give --sheet" in json.dumps(said)


WINDOW_QUESTION = {
    "latitude": 52,
    "longitude": 5,
    "from": "2026-06-01",
    "to": "2026-06-15",
    "window": {"faces_deg": 180, "tilt_deg": 90, "glass": "single", "horizon_deg": 0},
    "sky": "mixed",
}


def test_the_light_in_a_window(tmp_path, capsys):
    said = run(capsys, "dose", written(tmp_path, WINDOW_QUESTION))
    assert [day["date"] for day in said["days"]][::14] == ["2026-06-01", "2026-06-15"]
    assert said["low_lxh"] < said["dose_lxh"] < said["high_lxh"]
    assert sum(day["dose_lxh"] for day in said["days"]) == pytest.approx(said["dose_lxh"])
    # A sunny sill behind glass gets 10 to 50 klx while the sun shines; common practice.
    assert 10e3 < said["dose_lxh"] / 15 / 16 < 50e3


@pytest.mark.parametrize(
    "change",
    [{"to": "2026-05-01"}, {"sky": "blue"}, {"latitude": 120}, {"from": "June"}, {"window": {"glass": "brick"}}],
)
def test_what_is_no_window_is_refused(tmp_path, capsys, change):
    assert refused(capsys, "dose", written(tmp_path, WINDOW_QUESTION | change))["code"] == "invalid"


STAGES = [
    {"dose": dose, "dark_lab": [50, 30, 20], "exposed_lab": lab, "uncertainty_de00": 0.4}
    for dose, lab in [
        (2e5, [51.4, 27.5, 19]),
        (4e5, [52.8, 25.2, 18]),
        (8e5, [55, 21.5, 16.5]),
        (1.6e6, [57.4, 17.8, 15]),
    ]
]


def test_how_a_colour_fades(tmp_path, capsys):
    question = {"kind": "light", "points": STAGES, "doses": [8e5, 3.2e6]}
    said = run(capsys, "fade", written(tmp_path, question))
    assert set(said["thresholds"]) == {"noticeable", "plain", "rating_4", "rating_3", "rating_2"}
    plain = said["thresholds"]["plain"]
    assert plain["reached"]
    assert plain["low"] < plain["dose"] < plain["high"]
    seen, beyond = said["predicted"]
    assert seen["low_de00"] < seen["de00"] < seen["high_de00"]
    assert seen["lab"][0] == pytest.approx(55, abs=1)
    assert beyond["high_de00"] - beyond["low_de00"] > seen["high_de00"] - seen["low_de00"]
    assert any("rests on the shape alone" in words for words in said["warnings"])
    none = question | {"points": []}
    assert refused(capsys, "fade", written(tmp_path, none))["code"] == "invalid"


def _compare_question(effect: float) -> dict:
    """Two levels of iron, three pots of each, two fibres in each pot; deviations by hand."""
    pots, own = (0.4, -0.5, 0.1, -0.3, 0.2, 0.1), (0.2, -0.2)
    swatches = [
        {
            "code": f"{pot}{fibre}",
            "levels": {"iron": "yes" if pot > 2 else "no", "fibre": "silk" if fibre else "wool"},
            "vessels": {"dye": f"D{pot}"},
            "lab": [
                60 + pots[pot] + own[(pot + fibre) % 2] - effect * (pot > 2) + 4 * fibre,
                10 - pots[pot] + own[fibre],
                40 + own[pot % 2],
            ],
            "uncertainty_de00": 0.3,
        }
        for pot in range(6)
        for fibre in range(2)
    ]
    return {"swatches": swatches, "factors": ["iron", "fibre"], "interactions": [["iron", "fibre"]]}


def test_compare_answers_in_the_promised_format(tmp_path, capsys, monkeypatch):
    asked = tmp_path / "question.json"
    asked.write_text(json.dumps(_compare_question(15)))
    main(["compare", str(asked)])
    answer = json.loads(capsys.readouterr().out)
    assert set(answer["noise"]) == {"swatch", "vessel", "day"}
    iron = next(one for one in answer["effects"] if one["factor"] == "iron")
    assert {
        "factor",
        "from",
        "to",
        "delta_lab",
        "de00",
        "low_de00",
        "high_de00",
        "df",
        "p",
        "verdict",
        "verdicts",
    } <= set(iron)
    assert (iron["from"], iron["to"]) == ("no", "yes")
    assert iron["verdict"] == "different"
    assert iron["between"] == "dye"
    assert iron["delta_lab"][0] == pytest.approx(-15, abs=0.5)
    assert iron["low_de00"] < iron["de00"] < iron["high_de00"]
    fibre = next(one for one in answer["effects"] if one["factor"] == "fibre")
    assert fibre["between"] is None
    (pair,) = answer["interactions"]
    assert set(pair["factors"]) == {"iron", "fibre"}
    assert pair["verdict"] in ("different", "same", "untold")
    assert pair["p"] is not None
    monkeypatch.setattr("sys.stdin", io.StringIO(json.dumps(_compare_question(0))))
    main(["compare"])
    answer = json.loads(capsys.readouterr().out)
    assert answer["effects"][0]["verdict"] != "different"


@pytest.mark.parametrize(
    "spoil",
    [
        lambda q: q["swatches"].clear(),
        lambda q: q["swatches"][0].update(lab=[1, 2]),
        lambda q: q["swatches"][0]["levels"].pop("iron"),
        lambda q: q.update(factors=[]),
        lambda q: q["swatches"][0].update(uncertainty_de00=-1),
    ],
)
def test_compare_refuses_what_it_cannot_work_with(tmp_path, capsys, spoil):
    question = _compare_question(5)
    spoil(question)
    asked = tmp_path / "question.json"
    asked.write_text(json.dumps(question))
    with pytest.raises(SystemExit) as stopped:
        main(["compare", str(asked)])
    assert stopped.value.code == 2
    assert json.loads(capsys.readouterr().err)["title"]


def test_compare_says_where_there_is_nothing_to_compare(tmp_path, capsys):
    question = _compare_question(5) | {"factors": ["iron", "moon"]}
    for one in question["swatches"]:
        one["levels"]["iron"] = "no"
    asked = tmp_path / "question.json"
    asked.write_text(json.dumps(question))
    main(["compare", str(asked)])
    answer = json.loads(capsys.readouterr().out)
    assert answer["effects"] == []
    assert answer["constant"] == ["iron", "moon"]
    assert any("nothing to compare" in words for words in answer["words"])
    one_pot = _compare_question(5)
    for one in one_pot["swatches"]:
        one["vessels"] = {"dye": f"D {one['levels']['iron']}"}
    asked.write_text(json.dumps(one_pot))
    main(["compare", str(asked)])
    answer = json.loads(capsys.readouterr().out)
    iron = next(one for one in answer["effects"] if one["factor"] == "iron")
    # One pot a level is told against how pots usually differ, and says so.
    assert iron["rests_on"] == {"what": "vessel", "how": "usual", "repeats": 0}
    assert iron["verdicts"]["again"] == iron["verdict"]
    assert 7 < iron["shows_de00"] < 9
    assert any("Usual values" in words for words in answer["words"])
    # What is known from elsewhere may be given, and is named.
    known = one_pot | {"known_noise": {"vessel_de00": 0.4, "words": "from the spring"}}
    asked.write_text(json.dumps(known))
    main(["compare", str(asked)])
    answer = json.loads(capsys.readouterr().out)
    assert any("from the spring" in words for words in answer["words"])
    iron = next(one for one in answer["effects"] if one["factor"] == "iron")
    assert iron["verdict"] == "different"


def test_a_backup_is_restored_and_a_damaged_file_rescued_from_the_terminal(tmp_path, capsys):
    data = tmp_path / "grid.db"
    database = Database(data)
    run(capsys, "backup", tmp_path / "copy.db", "--data", data)
    with database.transaction() as connection:
        connection.execute("INSERT INTO photo_file VALUES ('later', x'00')")
    said = run(capsys, "restore", tmp_path / "copy.db", "--data", data)
    assert said["kept"]
    assert run(capsys, "check", "--quick", "--data", data)["faults"] == []
    rescued = run(capsys, "rescue", data, "--out", tmp_path / "rescued.db")
    assert rescued["faults"] == []
    assert refused(capsys, "rescue", data, "--out", tmp_path / "rescued.db")["code"] == ("file-exists")
    (tmp_path / "letter.db").write_text("Dear colleague")
    for verb in (("backup", tmp_path / "b.db"), ("access",)):
        assert refused(capsys, *verb, "--data", tmp_path / "letter.db")["code"] == "no-data-file"
    refusal = refused(capsys, "restore", tmp_path / "letter.db", "--data", data)
    assert refusal["code"] == "no-data-file"


def test_an_access_code_is_made_and_revoked_from_the_terminal(tmp_path, capsys):
    data = tmp_path / "grid.db"
    Database(data)
    first = run(capsys, "access", "--data", data)
    second = run(capsys, "access", "--data", data)
    assert first["kind"] == second["kind"] == "full"
    assert first["code"] != second["code"]
    assert run(capsys, "access", "--guest", "--data", data)["kind"] == "guest"
    assert run(capsys, "access", "--guest", "--revoke", "--data", data)["code"] is None
    assert refused(capsys, "access", "--revoke", "--data", data)["code"] == "last-code"


def test_studies_are_written_out_and_taken_in_from_a_terminal(capsys, tmp_path):
    here, there = tmp_path / "here.db", tmp_path / "there.db"
    data = open_data(here)
    with data.transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
    new_study(data, small_plan(name="Weld"))
    run(capsys, "export", "--out", tmp_path / "p.zip", "--data", here)
    looked = run(capsys, "import", tmp_path / "p.zip", "--look", "--data", there)
    assert [one["how"] for one in looked["studies"]] == ["new"]
    taken = run(capsys, "import", tmp_path / "p.zip", "--data", there)
    assert taken["studies"] == looked["studies"]
    again = run(capsys, "import", tmp_path / "p.zip", "--data", there)
    assert [one["how"] for one in again["studies"]] == ["here"]
    assert refused(capsys, "import", tmp_path / "none.zip", "--data", there)["code"] == "no-such-file"
    assert refused(capsys, "import", here, "--data", there)["code"] == "no-package"
