"""Open to a network: codes, guests, other sites' pages, sizes, and who wrote what."""

import re
import sqlite3
import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from fastapi import APIRouter
from fastapi.routing import APIRoute
from starlette.testclient import TestClient
from tests.small_study import small_plan

from zesty_grid.api.access import COOKIE, EVERYBODY_MAY_ASK, Doorkeeper
from zesty_grid.api.application import create_application
from zesty_grid.api.guard import MOST_AT_ONCE, MOST_BYTES
from zesty_grid.api.headers import HEADERS
from zesty_grid.api.reads_only import QUESTIONS
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.store.access import make_code
from zesty_grid.store.access_events import access_events, note_access
from zesty_grid.store.backup_names import backup_name
from zesty_grid.store.database import Database
from zesty_grid.store.keeping import create_study as keep_new_study

ADDRESS = "https://192.168.1.20:8750"
OWN = {"Origin": ADDRESS}


@pytest.fixture
def code(database: Database) -> str:
    with database.transaction() as connection:
        return make_code(connection, "full")


@pytest.fixture
def open_to_all(database: Database, code: str):
    """The application as it runs with --host 0.0.0.0 --tls."""
    return create_application(database, frozenset({"192.168.1.20"}), Doorkeeper(ADDRESS, is_secure=True))


def device(application) -> TestClient:
    return TestClient(application, base_url=ADDRESS, headers=OWN)


def enter(client: TestClient, code: str, name: str = "bench tablet"):
    return client.post("/api/access", json={"code": code, "device": name})


@pytest.fixture
def inside(open_to_all, code) -> TestClient:
    client = device(open_to_all)
    assert enter(client, code).status_code == 204
    return client


@pytest.fixture
def guest(open_to_all, inside) -> TestClient:
    made = inside.post("/api/access/codes/guest").json()["code"]
    client = device(open_to_all)
    assert enter(client, made, "class").status_code == 204
    return client


def code_of(answer) -> str:
    return answer.json()["type"].rsplit(":", 1)[-1]


def test_without_a_code_nothing_is_shown_but_the_door(open_to_all, inside):
    inside.post("/api/studies", json=small_plan(name="Secret madder"))
    stranger = device(open_to_all)
    asked = 0
    for template, methods in open_to_all.openapi()["paths"].items():
        path = re.sub(r"\{\w+\}", "1", template)
        for method in (name.upper() for name in methods):
            if (method, path) not in EVERYBODY_MAY_ASK:
                answer = stranger.request(method, path)
                assert answer.status_code == 401, (method, path)
                assert "Secret madder" not in answer.text
                asked += 1
    assert asked > 100
    assert stranger.get("/api/openapi.json").status_code == 401
    assert stranger.get("/api/access").json() == {
        "asked": True,
        "kind": None,
        "device": "",
        "address": "",
        "authority": False,
    }
    assert stranger.get("/").status_code == 200  # the page that asks for the code


def test_with_the_code_a_device_comes_in_and_stays_in(open_to_all, inside):
    assert inside.get("/api/studies").status_code == 200
    said = inside.get("/api/access").json()
    assert (said["kind"], said["device"]) == ("full", "bench tablet")


def test_the_cookie_is_for_this_site_only_and_out_of_reach_of_scripts(open_to_all, code):
    cookie = enter(device(open_to_all), code).headers["set-cookie"]
    # OWASP ASVS 4.0, 3.4.1 to 3.4.3.
    for attribute in ("HttpOnly", "SameSite=strict", "Secure", "Path=/"):
        assert attribute in cookie
    plain = create_application(open_to_all.state.database, frozenset({"192.168.1.20"}), Doorkeeper(ADDRESS))
    assert "Secure" not in enter(device(plain), code).headers["set-cookie"]


def test_neither_code_nor_cookie_can_be_read_in_the_file(database, inside, code):
    secret = inside.cookies[COOKIE]
    with database.connection() as connection:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        kept = connection.execute("SELECT hash FROM access_code").fetchone()[0]
    assert kept.startswith("$argon2id$")
    content = database.path.read_bytes()
    assert code.encode() not in content
    assert secret.encode() not in content


def test_wrong_codes_have_to_wait_and_then_the_right_one_is_let_in(open_to_all, code, monkeypatch):
    clock = [1000.0]
    monkeypatch.setattr("zesty_grid.api.access.time.monotonic", lambda: clock[0])
    stranger = device(open_to_all)
    for _ in range(5):
        answer = enter(stranger, "AAAA-AAAA-AAAA")
        assert (answer.status_code, code_of(answer)) == (403, "wrong-code")
    waiting = enter(stranger, code)
    assert (waiting.status_code, code_of(waiting)) == (429, "too-many-tries")
    assert waiting.headers["retry-after"] == "4"
    clock[0] += 4.5
    assert enter(stranger, code).status_code == 204


def test_a_code_that_is_changed_puts_out_all_but_the_one_that_changed_it(open_to_all, inside, code):
    other = device(open_to_all)
    enter(other, code, "colleague's phone")
    changed = inside.post("/api/access/codes/full").json()
    assert changed["link"] == f"{ADDRESS}/#/enter/{changed['code']}"
    assert changed["square"].startswith("data:image/svg+xml")
    assert inside.get("/api/studies").status_code == 200
    assert other.get("/api/studies").status_code == 401
    assert enter(other, code).status_code == 403
    assert enter(other, changed["code"]).status_code == 204


def test_one_device_is_put_out_and_another_leaves(open_to_all, inside, code):
    lost, leaving = device(open_to_all), device(open_to_all)
    enter(lost, code, "lost phone")
    enter(leaving, code, "studio computer")
    devices = inside.get("/api/access/doors").json()["devices"]
    assert [one["name"] for one in devices] == ["studio computer", "lost phone", "bench tablet"]
    assert [one["name"] for one in devices if one["is_this"]] == ["bench tablet"]
    assert inside.delete(f"/api/access/devices/{devices[1]['id']}").status_code == 204
    assert lost.get("/api/studies").status_code == 401
    assert leaving.delete("/api/access").status_code == 204
    assert leaving.get("/api/studies").status_code == 401
    assert inside.delete("/api/access/devices/99").status_code == 404


def test_what_happens_at_the_door_is_kept_without_any_code(open_to_all, inside, code, database):
    other = device(open_to_all)
    assert enter(other, "wrong-code", "stranger").status_code == 403
    assert enter(other, code, "phone").status_code == 204
    phone = next(one for one in inside.get("/api/access/doors").json()["devices"] if one["name"] == "phone")
    inside.post("/api/access/codes/guest")
    inside.delete("/api/access/codes/guest")
    inside.delete(f"/api/access/devices/{phone['id']}")
    events = inside.get("/api/access/doors").json()["events"]
    assert [(one["what"], one["words"]) for one in events] == [
        ("device put out", "phone"),
        ("code taken back", "guest"),
        ("new code", "guest"),
        ("came in", "phone"),
        ("wrong code", "stranger"),
        ("came in", "bench tablet"),
    ]
    assert {one["come_from"] for one in events} == {"testclient"}
    with database.connection() as connection:
        kept = " ".join(map(str, map(tuple, connection.execute("SELECT * FROM access_event"))))
    assert code not in kept
    assert "wrong-code" not in kept


def test_only_the_last_thousand_lines_at_the_door_are_kept(database):
    with database.transaction() as connection:
        for number in range(1010):
            note_access(connection, "wrong code", "192.168.1.9", f"device {number}")
        (kept,) = connection.execute("SELECT count(*) FROM access_event").fetchone()
        newest = access_events(connection, 1)
    assert kept == 1000
    assert newest[0].words == "device 1009"


def test_a_guest_sees_everything_and_changes_nothing(inside, guest, database):
    study = inside.post("/api/studies", json=small_plan(name="Shown")).json()["id"]
    assert [one["name"] for one in guest.get("/api/studies").json()] == ["Shown"]
    before = dump(database)
    for method, path in (
        ("POST", "/api/studies"),
        ("DELETE", f"/api/studies/{study}"),
        ("POST", f"/api/studies/{study}/dye/entries"),
        ("POST", "/api/access/codes/full"),
        ("GET", "/api/access/doors"),
        ("DELETE", "/api/access/devices/1"),
        ("POST", "/api/safekeeping/backups"),
        ("GET", "/api/safekeeping"),
        ("GET", "/api/safekeeping/backups/x"),
    ):
        answer = guest.request(method, path, json={})
        assert (answer.status_code, code_of(answer)) == (403, "guest"), path
    # A question that is sent by POST is answered.
    plan = {"swatches": 10, "vessels": 10}
    assert guest.post(f"/api/studies/{study}/budget", json=plan).status_code == 200
    assert dump(database) == before


def dump(database: Database) -> list[str]:
    with database.connection() as connection:
        return [line for line in connection.iterdump() if "seen_at" not in line]


def test_what_guests_may_ask_by_post_changes_nothing():
    """Every such question is there, and its own function opens no transaction."""
    asked = {
        route.path: route.endpoint
        for name, module in sys.modules.items()
        if name.startswith("zesty_grid.api.")
        for router in vars(module).values()
        if isinstance(router, APIRouter)
        for route in router.routes
        if isinstance(route, APIRoute)
        and "POST" in route.methods
        and QUESTIONS.fullmatch(route.path.replace("{study_id}", "1").replace("{key}", "box"))
    }
    assert len(asked) == 22
    for path, endpoint in asked.items():
        source = Path(endpoint.__code__.co_filename).read_text().splitlines()
        start = endpoint.__code__.co_firstlineno
        body = []
        for line in source[start:]:
            if line.startswith(("def ", "@", "class ")):
                break
            body.append(line)
        assert ".transaction(" not in "\n".join(body), path


def test_what_a_device_writes_is_signed_with_it(inside, database):
    study = inside.post("/api/studies", json=small_plan()).json()["id"]
    entry = {"kind": "note", "note": "rain water", "who": "Mira", "key": "device-1-note"}
    assert inside.post(f"/api/studies/{study}/dye/entries", json=entry).status_code == 201
    (line,) = inside.get(f"/api/studies/{study}/dye/log").json()
    assert (line["who"], line["device"]) == ("Mira", "bench tablet")
    assert inside.get(f"/api/studies/{study}/dye/log.csv").text.splitlines()[1].endswith(",bench tablet")
    with database.transaction() as connection:
        written = {row[0] for row in connection.execute("SELECT written FROM signature")}
        assert written == {"bench_entry", "plan_version"}
        with pytest.raises(sqlite3.IntegrityError, match="never overwritten"):
            connection.execute("UPDATE signature SET device_id = 2")


def test_on_this_computer_alone_nobody_is_asked_and_nothing_signed(client, database):
    study = client.post("/api/studies", json=small_plan()).json()["id"]
    assert client.get("/api/access").json()["asked"] is False
    client.post(f"/api/studies/{study}/dye/entries", json={"kind": "note", "note": "x"})
    with database.connection() as connection:
        assert connection.execute("SELECT count(*) FROM signature").fetchone()[0] == 0
    answer = client.post("/api/access", json={"code": "AAAA"})
    assert (answer.status_code, code_of(answer)) == (409, "not-open")


HERE = "http://127.0.0.1:8750"


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "https://elsewhere.example"},
        {"Origin": "null"},
        {"Origin": "https://127.0.0.1:8750"},  # another scheme is another origin (RFC 6454)
        {"Origin": "http://127.0.0.1:9999"},
        {"Origin": "http://127.0.0.1.elsewhere.example:8750"},
        {"Cookie": f"{COOKIE}=stolen"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
    ],
)
def test_another_sites_page_changes_nothing(client, headers):
    answer = client.post("/api/studies", json=small_plan(), headers=headers)
    assert (answer.status_code, code_of(answer)) == (403, "foreign-origin")
    assert client.get("/api/studies").json() == []


@pytest.mark.parametrize(
    "headers", [{}, {"Origin": HERE}, {"Origin": HERE, "Cookie": "x=1"}, {"Sec-Fetch-Site": "same-origin"}]
)
def test_the_own_page_and_programs_may_change_things(client, headers):
    assert client.post("/api/studies", json=small_plan(), headers=headers).status_code == 201


def test_a_form_of_another_site_is_refused_also_without_an_origin(client):
    for kind in ("text/plain", "application/x-www-form-urlencoded"):
        answer = client.post("/api/studies", content="{}", headers={"Content-Type": kind})
        assert (answer.status_code, code_of(answer)) == (415, "content-type")
    from_elsewhere = client.post("/api/photos", files={"file": b"x"}, headers={"Origin": "https://elsewhere.example"})
    assert from_elsewhere.status_code == 403


def test_a_foreign_host_is_refused(client):
    for host in ("elsewhere.example", "127.0.0.1.elsewhere.example", "127.0.0.1@elsewhere", ""):
        answer = client.get("/api/studies", headers={"Host": host})
        assert answer.status_code == 421, host


def test_too_many_bytes_are_refused_also_when_their_number_is_not_said(client, monkeypatch):
    answer = client.post("/api/studies", content=b"{}", headers={"Content-Length": str(MOST_BYTES + 1)})
    assert (answer.status_code, code_of(answer)) == (413, "too-many-bytes")
    assert client.post("/api/studies", headers={"Content-Length": "-1"}).status_code == 413
    monkeypatch.setattr("zesty_grid.api.guard.MOST_BYTES", 10_000)

    def unsaid():
        for _ in range(20):
            yield b"x" * 1000

    answer = client.post("/api/studies", content=unsaid(), headers={"Content-Type": "application/json"})
    assert (answer.status_code, code_of(answer)) == (413, "too-many-bytes")


def test_a_device_that_asks_without_end_is_slowed_down(inside, monkeypatch):
    monkeypatch.setattr("zesty_grid.api.guard.time.monotonic", lambda: 50.0)
    statuses = [inside.get("/api/access").status_code for _ in range(int(MOST_AT_ONCE) + 20)]
    assert statuses[-1] == 429
    assert statuses.count(200) <= MOST_AT_ONCE


def test_every_answer_has_the_headers_that_protect_the_page(open_to_all, inside, database):
    careful = TestClient(open_to_all, base_url=ADDRESS, raise_server_exceptions=False)
    study = inside.post("/api/studies", json=small_plan()).json()["id"]
    with database.transaction() as connection:
        connection.execute("DROP VIEW study_swatch")  # a fault of the application's own
    answers = [
        inside.get("/"),
        inside.get("/api/studies"),
        inside.get("/api/none"),
        inside.get("/assets/none.js"),
        careful.get("/api/studies"),
        careful.get("/", headers={"Host": "elsewhere.example"}),
        careful.get("/api/today", headers={"Cookie": f"{COOKIE}={inside.cookies[COOKIE]}"}),
        careful.get(f"/api/studies/{study}", headers={"Cookie": f"{COOKIE}={inside.cookies[COOKIE]}"}),
    ]
    assert {200, 401, 404, 421} <= {answer.status_code for answer in answers}
    for answer in answers:
        for header, value in HEADERS.items():
            assert answer.headers[header] == value, (answer.url, header)
        assert "server" not in answer.headers
    assert inside.get("/api/studies").headers["cache-control"] == "no-store"


def test_a_fault_of_its_own_says_so_and_shows_nothing_of_the_inside(database, monkeypatch):
    careful = TestClient(create_application(database), base_url=HERE, raise_server_exceptions=False)
    monkeypatch.setattr("zesty_grid.api.today.study_counts", broken)
    answer = careful.get("/api/today")
    assert (answer.status_code, code_of(answer)) == (500, "fault")
    assert "secret detail" not in answer.text
    assert answer.headers["content-security-policy"]


def broken(*_) -> None:
    raise RuntimeError("secret detail")


@pytest.mark.parametrize(
    ("name", "status", "code"),
    [
        ("SQLITE_FULL", 507, "disk-full"),
        ("SQLITE_READONLY", 503, "only-reading"),
        ("SQLITE_BUSY", 503, "file-held"),
        ("SQLITE_CORRUPT", 503, "file-damaged"),
        ("SQLITE_IOERR_WRITE", 503, "disk-error"),
    ],
)
def test_trouble_with_the_disk_is_an_answer_in_words(client, monkeypatch, name, status, code):
    def fails(*_) -> None:
        error = sqlite3.OperationalError("as SQLite says it")
        error.sqlite_errorname = name
        raise error

    monkeypatch.setattr(client.app.state.database, "transaction", fails)
    answer = client.post("/api/studies", json=small_plan())
    assert (answer.status_code, code_of(answer)) == (status, code)
    assert answer.json()["detail"]


def test_what_is_wrong_with_the_backups_is_a_warning(client, database):
    keeping = client.app.state.safekeeping
    keeping.is_making = True

    def warnings() -> list[str]:
        return client.get("/api/safekeeping").json()["warnings"]

    assert warnings() == []  # the first one is being made
    keeping.since -= timedelta(hours=1)
    assert warnings() == ["There is no backup yet."]
    made = keeping.backups.make()
    assert warnings() == []
    old = backup_name(made.made_at - timedelta(days=5))
    (keeping.backups.folder / made.name).rename(keeping.backups.folder / old)
    assert warnings() == ["The last backup is 5 days old."]
    ahead = (datetime.now(UTC) + timedelta(days=1)).isoformat()
    with database.transaction() as connection:
        study = keep_new_study(connection, StudyPlan.model_validate(small_plan()))
        connection.execute(
            "INSERT INTO bench_entry (study_id, key, vessel, step, kind, at, entered_at, "
            "received_at, document) VALUES (?, 'k', '', '', 'note', ?2, ?2, ?2, '{}')",
            (study, ahead),
        )
    assert "The clock of this computer stands" in warnings()[0]


def test_the_state_of_the_file_and_its_backups_by_the_api(client, database):
    state = client.get("/api/safekeeping").json()
    assert state["file"] == str(database.path)
    assert state["backups"] == []
    made = client.post("/api/safekeeping/backups").json()
    client.post("/api/studies", json=small_plan(name="After"))
    fetched = client.get(f"/api/safekeeping/backups/{made['name']}")
    assert fetched.content.startswith(b"SQLite format 3")
    assert len(fetched.content) == made["size_bytes"]
    restored = client.post(f"/api/safekeeping/backups/{made['name']}/restore").json()
    assert client.get("/api/studies").json() == []
    kept = [one["name"] for one in client.get("/api/safekeeping").json()["backups"]]
    assert set(kept) == {made["name"], restored["kept"]}
    assert client.post("/api/safekeeping/check").json()["faults"] == []
    for name in ("none.db", "..%2Fgrid.db", "%2e%2e"):
        assert client.get(f"/api/safekeeping/backups/{name}").status_code == 404
    assert datetime.fromisoformat(made["made_at"]).tzinfo is not None
