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
        expect(place.get_by_role("img", name="Picture of this note")).to_be_visible()
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
    expect(level.get_by_role("img", name="Picture of Dried-flowers")).to_be_visible()
    kept_picture = level.locator("img[src*='width=400']")
    expect(kept_picture).to_be_visible()
    page.wait_for_function("image => image.naturalWidth === 400", arg=kept_picture.element_handle())
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


@pytest.mark.own_page
def test_a_note_on_a_trial_is_written_without_a_network_and_kept_later(page: Page, address: str, study: int):
    code = http.get(f"{address}/api/studies/{study}").json()["swatches"][0]["code"]
    plan = {"name": "South window", "kind": "light", "swatches": [code], "stages": [{"label": "2 days", "days": 2}]}
    http.post(f"{address}/api/studies/{study}/trials", json=plan)
    page.goto(f"/#/study/{study}/fade")
    notes = page.get_by_role("group", name="Notes and pictures of South window")
    # The light above it takes its room when it is worked out; a press on the way would go beside the button.
    expect(notes.get_by_role("button", name="Add a note or a picture")).to_be_visible()
    page.wait_for_load_state("networkidle")
    page.route("**/dye/entries", lambda route: route.abort())
    write(page, notes, "cat slept on it")
    expect(notes.get_by_role("article")).to_contain_text("waits to be sent")
    page.unroute("**/dye/entries")
    expect(notes.get_by_role("button", name="take this note back")).to_be_visible()
    (kept,) = http.get(f"{address}/api/studies/{study}/dye/notes").json()
    assert (kept["of"], kept["trial"], kept["words"]) == ("trial", 1, "cat slept on it")


@pytest.mark.own_page
def test_a_picture_taken_without_a_network_is_kept_over_a_reload_and_sent_with_its_note(
    page: Page, address: str, study: int
):
    page.goto(f"/#/study/{study}/plan")
    place = page.get_by_role("group", name="Notes and pictures of the study")
    place.scroll_into_view_if_needed()
    sent = "**/dye/{entries,photos}"
    page.route(sent, lambda route: route.abort())
    write(page, place, "the pot at noon", a_picture())
    expect(place.get_by_text("with its picture, waits to be sent")).to_be_visible()
    page.reload()
    expect(place.get_by_text("with its picture, waits to be sent")).to_be_visible()
    waiting = place.get_by_role("img", name="Picture of the study")
    page.wait_for_function("image => image.naturalWidth === 640", arg=waiting.element_handle())
    page.unroute(sent)
    expect(place.locator("img[src*='width=400']")).to_be_visible()
    expect(place.get_by_text("waits to be sent")).to_have_count(0)
    [note] = http.get(f"{address}/api/studies/{study}/dye/notes").json()
    assert note["words"] == "the pot at noon"
    picture = http.get(f"{address}/api/studies/{study}/dye/photos/{note['photo']}")
    assert picture.content == a_picture()


def test_what_is_no_picture_is_said_and_its_words_can_go_alone(page: Page, address, study: int):
    page.goto(f"/#/study/{study}/plan")
    place = page.get_by_role("group", name="Notes and pictures of the study")
    place.get_by_role("button", name="Add a note or a picture").click()
    place.get_by_role("textbox", name="Note", exact=True).fill("no wind")
    file = {"name": "yard.jpg", "mimeType": "image/jpeg", "buffer": b"not a picture at all"}
    place.get_by_label("Picture for the note").set_input_files(file)
    place.get_by_role("button", name="Keep the note").click()
    refused = page.get_by_role("contentinfo", name="Dock").get_by_role("alert")
    expect(refused).to_contain_text("Not accepted (note")
    refused.get_by_role("button", name="Keep it without the picture").click()
    expect(place.get_by_role("button", name="take this note back")).to_be_visible()
    expect(refused).to_have_count(0)
    [note] = http.get(f"{address}/api/studies/{study}/dye/notes").json()
    assert (note["words"], note["photo"]) == ("no wind", None)


@pytest.mark.own_page
def test_a_device_that_can_keep_nothing_says_so_and_sends_all_the_same(page: Page, study: int):
    page.add_init_script("Object.defineProperty(window, 'indexedDB', { value: undefined })")
    page.goto(f"/#/study/{study}/plan")
    place = page.get_by_role("group", name="Notes and pictures of the study")
    page.route("**/dye/entries", lambda route: route.abort())
    write(page, place, "first frost")
    dock = page.get_by_role("contentinfo", name="Dock")
    expect(dock).to_contain_text("this device cannot keep them: leave this page open")
    page.unroute("**/dye/entries")
    expect(place.get_by_role("button", name="take this note back")).to_be_visible()


def test_after_a_note_only_what_tells_of_its_study_is_asked_for_again(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    place = page.get_by_role("group", name="Notes and pictures of the study")
    expect(place.get_by_role("button", name="Add a note or a picture")).to_be_visible()
    page.wait_for_load_state("networkidle")
    asked: list[str] = []
    page.on("request", lambda request: asked.append(f"{request.method} {request.url}"))
    with (
        page.expect_response(f"**/studies/{study}/dye/notes"),
        page.expect_request_finished(lambda one: one.method == "GET" and one.url.endswith(f"/api/studies/{study}")),
    ):
        write(page, place, "rain")
    page.wait_for_load_state("networkidle")
    paths = [one.split("/api/")[1] for one in asked if one.startswith("GET") and "/api/" in one]
    assert f"studies/{study}" in paths
    assert not [path for path in paths if path.startswith(("shelf", "questions", "access"))]


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
