"""What goes over a network is small; what comes again is not asked for twice."""

import re

import pytest
from starlette.testclient import TestClient
from tests.seeded_readings import new_study
from tests.small_study import small_plan

from zesty_grid.api.application import WEB, create_application

PHONE, HERE = ("192.168.1.20", 50000), ("127.0.0.1", 50000)


@pytest.fixture
def answer(database):
    new_study(database, small_plan())
    application = create_application(database)

    def ask(path: str, client=PHONE, **headers):
        return TestClient(application, "http://127.0.0.1:8750", client=client, headers=headers).get(path)

    return ask


def test_a_phone_gets_its_answers_compressed(answer):
    packed = answer("/api/studies/1")
    assert packed.headers["content-encoding"] == "gzip"
    plain = answer("/api/studies/1", **{"Accept-Encoding": "identity"})
    assert "content-encoding" not in plain.headers
    assert packed.json() == plain.json()
    assert len(packed.content) == len(plain.content)


def test_the_same_computer_and_small_answers_are_sent_as_they_are(answer):
    assert "content-encoding" not in answer("/api/studies/1", client=HERE).headers
    assert "content-encoding" not in answer("/api/studies/1/revision").headers


@pytest.mark.skipif(not (WEB / "assets").is_dir(), reason="the front end is not built")
def test_files_with_a_hash_in_their_name_are_kept_for_good(answer):
    page = answer("/")
    assert page.headers["cache-control"] == "no-cache"
    script = re.search(r'src="(/assets/[^"]+\.js)"', page.text)[1]
    found = answer(script)
    assert found.headers["cache-control"] == "public, max-age=31536000, immutable"
    assert found.headers["content-encoding"] == "gzip"
    assert "immutable" not in answer("/assets/none-12345678.js").headers.get("cache-control", "")
    assert "immutable" not in answer("/sw.js").headers["cache-control"]
