"""The trainer for the eye, gone through by somebody who sees all, and rates one step mild."""

import json

from playwright.sync_api import Page, expect

from zesty_grid.core.fade.grey_scale import GRADES


def answer(page: Page, task: dict) -> None:
    if task["kind"] == "grey":
        milder = GRADES[max(0, GRADES.index(task["grade"]) - 1)]
        rating = page.get_by_role("group", name="Rating on the grey scale")
        rating.get_by_role("button", name=milder, exact=True).click()
        return
    for place in task["right"]:
        page.get_by_role("button", name=f"Piece {place + 1}").click()


def test_a_round_says_how_small_a_difference_is_seen_and_which_way_ratings_lean(page: Page):
    page.goto("/#/trainer")
    with page.expect_response("**/api/eye/round?*") as asked:
        page.get_by_role("button", name="Begin, with made-up colours").click()
    tasks = asked.value.json()
    assert len(tasks) == 24
    for i, task in enumerate(tasks):
        expect(page.get_by_role("heading", name=task["asks"])).to_be_visible()
        expect(page.get_by_role("progressbar")).to_have_attribute("aria-valuenow", str(int(100 * i / 24 + 0.5)))
        answer(page, task)
    said = page.get_by_role("status").filter(has_text="You tell two colours apart that are less than")
    expect(said).to_contain_text("You rate fading milder than the formula")
    expect(said).to_contain_text("Damp or dry: 2 of 2 right.")
    kept = json.loads(page.evaluate("localStorage.getItem('eye')"))
    # All pairs were told, also the closest: the limit lies below them.
    assert kept["result"]["jnd_de00"] < 0.8
    assert 0.3 < kept["result"]["bias_grades"] <= 0.5
    page.goto("/#/words")
    expect(page.get_by_role("heading", name="Words")).to_be_visible()
    page.goto("/#/trainer")
    expect(page.get_by_role("note")).to_contain_text("You tell two colours apart")


def test_a_wrong_answer_is_said_with_how_small_it_was(page: Page):
    page.goto("/#/trainer")
    with page.expect_response("**/api/eye/round?*") as asked:
        page.get_by_role("button", name="Begin, with made-up colours").click()
    first = asked.value.json()[0]
    assert first["kind"] == "which"
    page.get_by_role("button", name=f"Piece {2 - first['right'][0]}").click()
    expect(page.get_by_role("status")).to_have_text(f"No; it was {first['de00']:.1f} ΔE00.")
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_role("button", name="Begin, with made-up colours")).to_be_visible()
