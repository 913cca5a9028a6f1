"""Notes and pictures where the thing is that they are of: study, level, swatch, trial."""

import io

import pytest
from PIL import Image
from playwright.sync_api import Locator, Page, expect
from tests import patient_http as http
from tests.small_study import small_plan


@pytest.fixture
def study(address: str) -> int:
    return http.post(f"{address}/api/studies", json=small_plan()).json()["id"]


def write(page: Page, place: Locator, words: str, picture: bytes | None = None) -> None:
    place.get_by_role("button", name="Add a note or a picture").click()
    place.get_by_role("textbox", name="Note", exact=True).fill(words)
    if picture:
        file = {"name": "yard.jpg", "mimeType": "image/jpeg", "buffer": picture}
        place.get_by_label("Picture for the note").set_input_files(file)
        expect(place.get_by_text("Picture kept")).to_be_visible()
    place.get_by_role("button", name="Keep the note").click()
    expect(place.get_by_role("article").filter(has_text=words)).to_be_visible()


def a_picture() -> bytes:
    buffer = io.BytesIO()
    Image.new("RGB", (640, 480), (150, 120, 60)).save(buffer, "JPEG")
    return buffer.getvalue()


def test_a_level_and_the_study_have_notes_and_pictures(page: Page, address: str, study: int):
    page.goto(f"/#/study/{study}/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Dried-flowers: no notes").click()
    level = panel.get_by_role("group", name="Level Dried-flowers")
    write(page, level, "picked after rain", a_picture())
    shown = level.get_by_role("img", name="Picture of Dried-flowers")
    expect(shown).to_be_visible()
    page.wait_for_function("image => image.naturalWidth === 400", arg=shown.element_handle())
    write(page, panel.get_by_role("group", name="Notes and pictures of the study"), "hot June")
    page.reload()
    panel.get_by_role("button", name="Dried-flowers: 1 note").click()
    expect(level.get_by_text("picked after rain")).to_be_visible()
    level.get_by_role("button", name="take this note back").click()
    expect(panel.get_by_role("button", name="Dried-flowers: no notes")).to_be_visible()
    kept = http.get(f"{address}/api/studies/{study}/dye/notes").json()
    assert [(one["of"], one["words"]) for one in kept] == [("study", "hot June")]


def test_the_swatches_of_a_level_are_chosen_from_its_name(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="ph 9: no notes").click()
    panel.get_by_role("button", name="select its 8 swatches").click()
    expect(panel.get_by_role("group", name="Selected")).to_contain_text("8 selected")


def test_one_note_for_several_swatches_stands_in_the_record_of_each(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    grid = page.get_by_role("grid", name="Swatches")
    grid.get_by_role("gridcell").nth(0).click()
    grid.get_by_role("gridcell").nth(1).click(modifiers=["Shift"])
    chosen = page.get_by_role("group", name="Selected")
    chosen.get_by_role("button", name="Note on all 2").click()
    chosen.get_by_role("textbox", name="Note", exact=True).fill("same skein")
    chosen.get_by_role("button", name="Keep the note").click()
    grid.get_by_role("gridcell").nth(1).dblclick()
    expect(page.get_by_role("article")).to_contain_text("same skein")


def test_a_note_on_a_trial_is_written_without_a_network_and_kept_later(
    page: Page, address: str, study: int
):
    code = http.get(f"{address}/api/studies/{study}").json()["swatches"][0]["code"]
    plan = {"name": "South window", "kind": "light", "swatches": [code],
            "stages": [{"label": "2 days", "days": 2}]}  # fmt: skip
    http.post(f"{address}/api/studies/{study}/trials", json=plan)
    page.goto(f"/#/study/{study}/fade")
    notes = page.get_by_role("group", name="Notes and pictures of South window")
    expect(notes.get_by_role("button", name="Add a note or a picture")).to_be_visible()
    page.route("**/dye/entries", lambda route: route.abort())
    write(page, notes, "cat slept on it")
    expect(notes.get_by_role("article")).to_contain_text("waits to be sent")
    page.unroute("**/dye/entries")
    expect(notes.get_by_role("button", name="take this note back")).to_be_visible()
    (kept,) = http.get(f"{address}/api/studies/{study}/dye/notes").json()
    assert (kept["of"], kept["trial"], kept["words"]) == ("trial", 1, "cat slept on it")


def test_a_factor_goes_only_after_it_was_said_what_goes_with_it(page: Page, address: str, study):
    page.goto(f"/#/study/{study}/plan")
    factor = page.get_by_role("complementary").get_by_role("group", name="Dye pH", exact=True)
    factor.get_by_role("button", name="remove: do not cross").click()
    asked = page.get_by_role("alertdialog", name="Take out Dye pH")
    expect(asked).to_contain_text("16 swatches have one of the 2 levels of Dye pH")
    asked.get_by_role("button", name="Keep it").click()
    expect(asked).to_have_count(0)
    factor.get_by_role("button", name="remove: do not cross").click()
    asked.get_by_role("button", name="Take it out").click()
    expect(factor).to_have_count(0)
    expect(page.get_by_role("status").filter(has_text="saved")).to_be_visible()
    plan = http.get(f"{address}/api/studies/{study}").json()["plan"]
    assert "ph" not in [one["kind"] for one in plan["factors"]]
