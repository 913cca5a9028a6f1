"""The OpenAPI document says all that happens: a schema-driven tester finds nothing else."""

import re
from pathlib import Path

import pytest
from fastapi import FastAPI
from starlette.testclient import TestClient
from tests.api_contract import application_on, complaints, document, operations_of, seeded_file, start_anew
from tests.depth import depth

EXAMPLES = depth(1, 4)
DOCUMENT = document()
LABELS = [f"{method.upper()} {path}" for path, methods in DOCUMENT["paths"].items() for method in methods]
METHODS = ("GET", "POST", "PUT", "DELETE", "PATCH")


@pytest.fixture(scope="module")
def seeded(tmp_path_factory) -> Path:
    return seeded_file(tmp_path_factory.mktemp("contract") / "seeded.db")


@pytest.fixture(scope="module")
def application(seeded: Path) -> FastAPI:
    return application_on(seeded)


@pytest.fixture(scope="module")
def operations(application: FastAPI) -> dict:
    return operations_of(application)


@pytest.mark.parametrize("label", LABELS)
def test_answers_are_those_that_the_document_names(label, operations, application, seeded, tmp_path):
    start_anew(application, seeded, tmp_path / "fresh")
    assert list(complaints(operations[label], EXAMPLES)) == []


@pytest.mark.parametrize(
    "label", [label for label in LABELS if re.search(r"\{(study|trial|photo|reading|table)_id", label)]
)
def test_where_nothing_is_the_answer_is_404_whatever_was_sent(label, application):
    method, path = label.split()
    address = path.format_map(dict.fromkeys(_names(path), "987654"))
    answer = TestClient(application, base_url="http://testserver").request(method, address)
    assert (answer.status_code, answer.json()["type"]) == (404, "urn:zesty-grid:problem:not-found")


def test_every_answer_says_of_which_kind_it_is():
    for path, methods in DOCUMENT["paths"].items():
        for method, operation in methods.items():
            for status, answer in operation["responses"].items():
                named = answer.get("$ref", "").rsplit("/", 1)[-1]
                kinds = DOCUMENT["components"]["responses"].get(named, answer).get("content", {})
                assert kinds or status == "204", (method, path, status)
                assert all(kind["schema"] for kind in kinds.values()), (method, path, status)


@pytest.mark.parametrize("path", DOCUMENT["paths"])
def test_other_methods_are_refused_with_those_that_there_are(path, application):
    """RFC 9110, 15.5.6: the answer says which methods are allowed."""
    client = TestClient(application, base_url="http://testserver")
    # “/api/tables/look” is also a “/api/tables/{table_id}”, of a number that is none.
    there = {
        method.upper()
        for other, methods in DOCUMENT["paths"].items()
        if re.fullmatch(re.sub(r"\{\w+\}", "[^/]+", other), path)
        for method in methods
    }
    for method in set(METHODS) - there:
        answer = client.request(method, path.format_map(dict.fromkeys(_names(path), "1")))
        assert answer.status_code == 405, method
        assert answer.headers["content-type"] == "application/problem+json"
        assert set(answer.headers["allow"].split(", ")) - {"HEAD", "OPTIONS"} <= there


def _names(path: str) -> list[str]:
    return [part.split("}")[0] for part in path.split("{")[1:]]
