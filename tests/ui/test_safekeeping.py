"""Backups and access codes on screen, with two devices."""

import re
from collections.abc import Iterator

import pytest
from fastapi import FastAPI
from playwright.sync_api import Browser, Page, expect
from tests.seeded_readings import new_study
from tests.small_study import small_plan

from zesty_grid.api.access import Doorkeeper
from zesty_grid.api.application import create_application
from zesty_grid.store.access import make_code
from zesty_grid.store.database import Database
from zesty_grid.store.safekeeping import check

pytestmark = pytest.mark.own_page


@pytest.fixture
def two_studies(database: Database) -> None:
    new_study(database, small_plan(name="Weld on wool"))


class TestOnThisComputer:
    def test_a_backup_is_made_restored_and_what_was_there_kept(self, page: Page, database, two_studies):
        page.goto("/#/safekeeping")
        expect(page.get_by_role("heading", name="Safekeeping")).to_be_visible()
        expect(page.get_by_text("Only this computer.")).to_be_visible()
        page.get_by_role("button", name="Make a backup now").click()
        kept = page.get_by_role("list", name="Backups").get_by_role("listitem")
        expect(kept).to_have_count(1)
        new_study(database, small_plan(name="A mistake"))
        kept.get_by_role("button", name="Restore").click()
        dialog = page.get_by_role("dialog")
        expect(dialog).to_contain_text("What is there now is kept first")
        dialog.get_by_role("button", name="Restore it").click()
        expect(dialog).to_contain_text("It is restored.")
        dialog.get_by_role("button", name="Close").click()
        expect(kept).to_have_count(2)
        expect(page.get_by_text("before a restore")).to_be_visible()
        page.get_by_role("button", name=re.compile("Weld on wool")).click()
        expect(page.get_by_text("A mistake")).to_have_count(0)

    def test_the_whole_file_is_checked_on_demand(self, page: Page, database, two_studies):
        page.goto("/#/safekeeping")
        page.get_by_role("button", name="Check the whole file").click()
        expect(page.get_by_text("every page, reference and photograph")).to_be_visible()
        with database.transaction() as connection:
            connection.execute("INSERT INTO photo_file VALUES ('not its hash', x'00')")
        page.get_by_role("button", name="Check the whole file").click()
        expect(page.get_by_text("is not what was stored")).to_be_visible()
        assert len(check(database.path)) == 1

    def test_a_warning_stands_on_every_screen_and_leads_to_its_cure(self, page: Page, application, two_studies):
        application.state.safekeeping.backups.fault = "There is no room for a backup."
        page.goto("/#/study/1/weigh")
        notice = page.get_by_role("status", name="The data file")
        expect(notice).to_contain_text("The last backup could not be made.")
        notice.get_by_role("button", name="Safekeeping").click()
        expect(page.get_by_role("heading", name="Safekeeping")).to_be_visible()

    def test_what_cannot_be_saved_is_said_and_stays_on_the_screen(self, page: Page, database, two_studies):
        page.goto("/#/study/1/plan")
        page.get_by_role("button", name="Remove").last.wait_for()
        database.only_reading = "The disk may only be read."
        page.get_by_role("button", name="Remove").last.click()
        page.get_by_role("button", name="Take it out").click()
        expect(page.get_by_text("Nothing can be saved now.").first).to_be_visible()
        expect(page.get_by_text("The disk may only be read.").first).to_be_visible()
        # When the disk is there again, the change is saved without being made anew.
        database.only_reading = ""
        page.get_by_role("button", name=re.compile("again|Save", re.I)).first.click()
        expect(page.get_by_text("· saved")).to_be_visible()


class TestOpenToANetwork:
    @pytest.fixture
    def code(self, database: Database) -> str:
        with database.transaction() as connection:
            return make_code(connection, "full")

    @pytest.fixture
    def application(self, database: Database, code: str, two_studies) -> FastAPI:
        keeper = Doorkeeper("http://127.0.0.1")
        return create_application(database, frozenset({"127.0.0.1"}), keeper)

    @pytest.fixture
    def phone(self, browser: Browser, address: str) -> Iterator[Page]:
        context = browser.new_context(viewport={"width": 360, "height": 740}, base_url=address)
        page = context.new_page()
        page.set_default_timeout(20_000)
        yield page
        context.close()

    def test_two_devices_with_wrong_and_right_codes(self, page: Page, phone: Page, code):
        page.goto("/")
        expect(page.get_by_text("Weld on wool")).to_have_count(0)
        page.get_by_label("Access code").fill("AAAA-AAAA-AAAA")
        page.get_by_role("button", name="Enter").click()
        expect(page.get_by_role("alert")).to_contain_text("This is not the code.")
        page.get_by_label("Access code").fill(code.lower().replace("-", ""))
        page.get_by_label("Name of this device").fill("desk")
        page.get_by_role("button", name="Enter").click()
        expect(page.get_by_role("button", name=re.compile("Weld on wool"))).to_be_visible()
        # The square code brings the code along; it does not stay in the address.
        phone.goto(f"/#/enter/{code}")
        expect(phone.get_by_label("Access code")).to_have_value(code)
        phone.get_by_label("Name of this device").fill("bench phone")
        phone.get_by_role("button", name="Enter").click()
        expect(phone.get_by_role("button", name=re.compile("Weld on wool"))).to_be_visible()
        assert code not in phone.url
        # One of them is put out, and its next look asks for the code.
        page.goto("/#/safekeeping")
        page.get_by_role("button", name="Put out bench phone").click()
        expect(page.get_by_role("list", name="Devices").get_by_role("listitem")).to_have_count(1)
        page.get_by_text("Lately at the door").click()
        lately = page.get_by_role("list", name="Lately at the door")
        expect(lately).to_contain_text("device put out, bench phone")
        phone.reload()
        expect(phone.get_by_label("Access code")).to_be_visible()

    def test_a_guest_code_is_made_used_and_revoked(self, page: Page, phone: Page, code):
        page.goto(f"/#/enter/{code}")
        page.get_by_role("button", name="Enter").click()
        page.get_by_role("button", name="Safekeeping").click()
        page.get_by_role("group", name="Guest code").get_by_role("button", name="Make one").click()
        shown = page.get_by_role("group", name="The new code")
        expect(shown.get_by_role("img")).to_be_visible()
        found = re.search(r"([A-Z0-9]{4}-){2}[A-Z0-9]{4}", shown.inner_text())
        assert found
        phone.goto(f"/#/enter/{found[0]}")
        phone.get_by_role("button", name="Enter").click()
        expect(phone.get_by_text("You look on as a guest")).to_be_visible()
        phone.goto("/#/today")
        phone.get_by_role("button", name="Backups, and who may come in").click()
        expect(phone.get_by_text("As a guest you can look at every study.")).to_be_visible()
        page.get_by_role("button", name="Revoke it").click()
        expect(page.get_by_role("group", name="Guest code")).to_contain_text("There is none")
        phone.reload()
        expect(phone.get_by_label("Access code")).to_be_visible()

    def test_a_changed_code_is_asked_for_on_the_other_device(self, page: Page, phone: Page, code):
        for device in (page, phone):
            device.goto(f"/#/enter/{code}")
            device.get_by_role("button", name="Enter").click()
            expect(device.get_by_role("button", name=re.compile("Weld on wool"))).to_be_visible()
        page.get_by_role("button", name="Safekeeping").click()
        page.get_by_role("group", name="Full code").get_by_role("button", name="Change it").click()
        expect(page.get_by_role("group", name="The new code")).to_be_visible()
        phone.reload()
        expect(phone.get_by_label("Access code")).to_be_visible()
        expect(page.get_by_role("heading", name="Safekeeping")).to_be_visible()
