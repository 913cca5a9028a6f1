"""Two studies that share swatches and hold something of all that a file can hold, for tests."""

import io

from PIL import Image
from starlette.testclient import TestClient
from tests.logged_study import logged_study
from tests.seeded_readings import READ_AT, add_readings
from tests.small_study import small_plan

from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.store import dye
from zesty_grid.store.database import Database

LIGHT_CSV = "time,lux\n" + "\n".join(
    f"2026-10-{day:02d}T{hour:02d}:00:00,{4000 if 8 <= hour <= 17 else 0}" for day in range(4, 7) for hour in range(24)
)


def rich_study(database: Database, client: TestClient) -> tuple[int, int]:
    """The numbers of the study that was dyed and read, and of the one that goes on from it."""
    study, codes = logged_study(database, name="Strengths", replicates=1)
    every = list(codes.values())
    made(client.put(f"/api/studies/{study}/dye/protocol", json={"pairs_of_hands": 2}))
    _log(database, client, study, every)
    _trial(database, client, study, every)
    _instrument(client, study, every)
    made(client.post("/api/shelf", json={"kind": "cloth", "key": "rag", "name": "Red rag"}))
    made(client.post("/api/cloths/rag/readings", json={"lightness": 45, "a": 50, "b": 30}))
    reading = client.get(f"/api/studies/{study}/readings").json()[0]["id"]
    made(client.post(f"/api/readings/{reading}/choice", json={"counts": False, "note": "a stain"}))
    onward = small_plan(
        name="Onward",
        treatments=[
            {
                "key": "iron-after",
                "name": "Iron after",
                "kind": "iron",
                "swatches": every[:2],
                "iron_percent_wof": 1.0,
                "route": "after-bath",
                "seconds": 60,
            }
        ],
    )
    return study, made(client.post("/api/studies", json=onward))["id"]


def made(answer) -> dict:
    assert answer.status_code in (200, 201, 204), answer.text
    return answer.json() if answer.content else {}


def _log(database: Database, client: TestClient, study: int, codes: list[str]) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (64, 48), "white").save(picture, "JPEG")
    kept = made(client.post(f"/api/studies/{study}/dye/photos", files={"file": picture.getvalue()}))
    with database.transaction() as connection:
        for said in (
            {"kind": "note", "note": "soft\nwater", "who": '=HYPERLINK("x")', "photo": kept["photo"]},
            {"kind": "deviation", "vessel": "D1", "step": "hold", "deviation": "forgot to stir", "swatches": codes[:2]},
        ):
            last = dye.add_entry(connection, study, NewBenchEntry(at=READ_AT, **said), READ_AT)
        for said in (
            {"kind": "cure", "vessel": "D1", "cure": "keep with a mark", "about": last.id},
            {"kind": "note", "note": codes[0], "replaces": last.id - 1},
        ):
            dye.add_entry(connection, study, NewBenchEntry(at=READ_AT, **said), READ_AT)


def _trial(database: Database, client: TestClient, study: int, codes: list[str]) -> None:
    three = codes[:3]
    trial = made(
        client.post(
            f"/api/studies/{study}/trials",
            json={
                "kind": "light",
                "name": "Window",
                "swatches": three,
                "starts_on": "2026-10-04",
                "stages": [{"label": "1 day", "days": 1}, {"label": "2 days", "days": 2}],
            },
        )
    )["id"]
    log = made(client.post(f"/api/studies/{study}/trials/{trial}/logs", files={"log": LIGHT_CSV.encode()}))["id"]
    made(
        client.post(
            f"/api/studies/{study}/trials/{trial}/entries",
            json={"kind": "light", "sources": [{"kind": "logger", "log": log}], "counts": 0},
        )
    )
    for stage in (0, 1):
        laid = [
            (code, piece, (60 + 3.0 * stage + i, 5.0, 20.0))
            for i, code in enumerate(three)
            for piece in ("dark", "light")
        ]
        add_readings(database, study, laid, trial=trial, stage=stage, early=True)


def _instrument(client: TestClient, study: int, codes: list[str]) -> None:
    content = "name,L*,a*,b*\n" + "\n".join(f"{code},7{i},1,2{i}" for i, code in enumerate(codes[:3]))
    made(
        client.post(
            f"/api/studies/{study}/instruments",
            json={
                "content": content,
                "instrument": "Probe",
                "measured_on": "2026-10-02",
                "early": True,
                "said": {"illuminant": "D50", "observer": "2"},
            },
        )
    )
