"""A package of studies: sound by its own description, complete, and enough to do it all again."""

import hashlib
import io
import json
import re
import zipfile
from pathlib import Path

import numpy as np
import pandas as pd
import pytest
from frictionless import Package
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from starlette.testclient import TestClient
from tests.compared_studies import seeded_study
from tests.seeded_readings import new_trial
from tests.small_study import small_plan

from zesty_grid.api.packages import write_package
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.package.tables import TABLES
from zesty_grid.formats.spreadsheet_text import FORMULA_STARTS, as_it_was, plain_text
from zesty_grid.store.database import Database

DOC = Path(__file__).parents[2] / "docs" / "taking-away.md"


@pytest.fixture
def study(database: Database, client: TestClient) -> int:
    """Dyed on paper, read, on trial, with a word in the log that a spreadsheet would run."""
    made, codes = seeded_study(database)
    new_trial(
        database,
        made,
        {
            "kind": "light",
            "name": "Window",
            "swatches": list(codes.values())[:3],
            "stages": [{"label": "1 day", "days": 1, "dose_lxh": 1e5}],
        },
    )
    picture = io.BytesIO()
    Image.new("RGB", (64, 48), "white").save(picture, "JPEG")
    kept = client.post(f"/api/studies/{made}/dye/photos", files={"file": picture.getvalue()}).json()
    note = {
        "kind": "note",
        "note": "soft water",
        "who": '=HYPERLINK("x")',
        "key": "device-note",
        "photo": kept["photo"],
    }
    assert client.post(f"/api/studies/{made}/dye/entries", json=note).status_code == 201
    return made


@pytest.fixture
def package(database: Database, study: int, tmp_path: Path) -> Path:
    write_package(database, [str(study)], tmp_path / "package")
    return tmp_path / "package"


def table(package: Path, name: str) -> pd.DataFrame:
    return pd.read_csv(package / f"{name}.csv")


def test_it_is_valid_by_its_own_description(package):
    report = Package(str(package / "datapackage.json")).validate()
    assert report.valid, report.flatten(["type", "message"])
    assert [one.name for one in report.tasks] == [one.name for one in TABLES]


def test_every_column_has_a_meaning_and_every_figure_its_unit():
    for one in TABLES:
        assert set(one.key) <= {column.name for column in one.columns}
        for column in one.columns:
            assert column.description, (one.name, column.name)
            for ending, unit in (("mass_g", "g"), ("_de00", "ΔE00"), ("seconds", "s")):
                assert column.unit == unit or not column.name.endswith(ending), column.name


def test_all_that_was_dyed_and_read_is_in_it(package, database, study):
    with database.connection() as connection:
        for kept, name in (
            ("swatch", "swatches"),
            ("reading", "readings"),
            ("bench_entry", "entries"),
            ("trial", "trials"),
            ("trial_stage", "stages"),
            ("photo_file", "photos"),
            ("shelf_item", "shelf"),
            ("run", "runs"),
        ):
            rows = connection.execute(f"SELECT count(*) FROM {kept}").fetchone()[0]
            assert len(table(package, name)) == rows, name
    photos = table(package, "photos")
    for row in photos.itertuples():
        assert hashlib.sha256((package / row.path).read_bytes()).hexdigest() == row.photo
    for path in table(package, "readings").calibration.unique():
        assert "residual_de00" in json.loads((package / path).read_text())["calibration"]


def test_the_analysis_in_the_documentation_gives_what_the_application_says(package, monkeypatch):
    code = re.search(r"```python\n(.*?)```", DOC.read_text(), re.DOTALL)[1]
    assert len(code.strip().splitlines()) <= 10
    monkeypatch.chdir(package)
    found: dict = {}
    exec(code, found)
    # Both fibres met the same strengths and irons: the difference of means is the effect.
    (effect,) = table(package, "effects").query("factor == 'fibre'").itertuples()
    crossed = found["table"][found["table"].control.isna()]
    means = crossed.groupby("fibre")[["lightness", "a_star", "b_star"]].mean()
    change = means.loc[effect.to_level] - means.loc[effect.from_level]
    said = (effect.delta_lightness, effect.delta_a_star, effect.delta_b_star)
    assert np.allclose(change, said, atol=0.05)
    assert (effect.verdict, effect.these_pieces, effect.as_a_rule) == ("different",) * 3


def test_the_same_studies_give_the_same_bytes_but_for_the_moment(database, study, package, tmp_path):
    write_package(database, [], tmp_path / "all.zip")
    with zipfile.ZipFile(tmp_path / "all.zip") as packed:
        assert packed.testzip() is None
        names = packed.namelist()
        assert sorted(names) == sorted(str(path.relative_to(package)) for path in package.rglob("*") if path.is_file())
        for name in names:
            there, again = (package / name).read_bytes(), packed.read(name)
            if name == "datapackage.json":
                there, again = (re.sub(rb'"created": ".*?"', b"", one) for one in (there, again))
            assert there == again, name


def test_no_cell_is_run_by_a_spreadsheet_and_each_comes_back_as_it_was(package):
    (who,) = table(package, "entries").who
    assert who == '\'=HYPERLINK("x")'
    assert as_it_was(who) == '=HYPERLINK("x")'


@given(st.text(max_size=30))
def test_harmless_text_is_the_same_text_again(words):
    """OWASP, CSV injection: cells that begin with = + - @, a tab or a return."""
    assert as_it_was(plain_text(words)) == words
    assert not plain_text(words).startswith(tuple(set(FORMULA_STARTS) - {"'"}))


def test_a_study_is_named_by_number_name_or_identity(database, study, client, tmp_path):
    client.post("/api/studies", json=small_plan(name="Other"))
    identity = table_of_all(database, tmp_path).set_index("name").study["Other"]
    for n, name in enumerate(("Other", identity, "2")):
        assert write_package(database, [name], tmp_path / f"{n}.zip") == [2]
    client.post("/api/studies", json=small_plan(name="Other"))
    with pytest.raises(Refusal, match="2 studies are called"):
        write_package(database, ["Other"], tmp_path / "two.zip")
    with pytest.raises(Refusal, match="no study"):
        write_package(database, ["Else"], tmp_path / "none.zip")


def table_of_all(database: Database, folder: Path) -> pd.DataFrame:
    write_package(database, [], folder / "whole")
    return table(folder / "whole", "studies")


def test_the_package_is_fetched_by_the_api(client, study):
    answer = client.get(f"/api/package.zip?studies={study}")
    assert answer.headers["content-type"] == "application/zip"
    assert answer.content[:2] == b"PK"
    assert client.get("/api/package.zip?studies=99").status_code == 404
    assert client.get("/api/package.zip?studies=a").status_code == 422


def test_an_empty_file_gives_a_package_too(database, tmp_path):
    write_package(database, [], tmp_path / "package")
    assert Package(str(tmp_path / "package" / "datapackage.json")).validate().valid
