"""Studies and things for the Shelf that come from a file, and tables that are taken away."""

import csv
import io
import re
from pathlib import Path

import openpyxl
from playwright.sync_api import Page, expect
from tests.api.test_entering import FIBRES, TABLE
from tests.compared_studies import seeded_study
from tests.seeded_readings import new_study
from tests.small_study import small_plan

from zesty_grid.api.application import create_application
from zesty_grid.api.packages import write_package
from zesty_grid.store.database import Database


def chosen(page: Page, name: str, content: bytes) -> None:
    page.get_by_label("File with studies").set_input_files(
        {"name": name, "mimeType": "application/octet-stream", "buffer": content}
    )


class TestAPackage:
    def test_it_is_looked_at_taken_in_and_then_here(self, page: Page, database, tmp_path: Path):
        other = Database(tmp_path / "other.db")
        create_application(other)
        seeded_study(other, name="Strengths")
        write_package(other, [], tmp_path / "p.zip")
        new_study(database, small_plan(name="Mine"))
        page.goto("/#/study/1/plan")
        page.get_by_role("button", name="Mine ▾").click()
        page.get_by_role("button", name="Studies from a file").click()
        dialog = page.get_by_role("dialog", name="Studies from a file")
        chosen(page, "p.zip", (tmp_path / "p.zip").read_bytes())
        line = dialog.get_by_role("listitem")
        expect(line).to_contain_text("New: 28 swatches, 28 readings.")
        expect(line).to_contain_text("They get a B before them")
        with database.connection() as connection:
            assert connection.execute("SELECT count(*) FROM study").fetchone()[0] == 1
        dialog.get_by_role("button", name="Take it in").click()
        line.get_by_role("button", name="Open").click()
        expect(page.get_by_role("button", name="Strengths ▾")).to_be_visible()
        expect(page.get_by_text(re.compile(r"^○?B[A-Z0-9]{4}")).first).to_be_visible()
        page.get_by_role("button", name="Strengths ▾").click()
        page.get_by_role("button", name="Studies from a file").click()
        expect(dialog.get_by_role("region", name="Taken in before")).to_contain_text("Strengths")
        chosen(page, "p.zip", (tmp_path / "p.zip").read_bytes())
        expect(dialog).to_contain_text("There is nothing to take in")
        expect(dialog.get_by_role("button", name="Take it in")).to_have_count(0)

    def test_what_is_no_package_is_said_and_another_can_be_chosen(self, page: Page):
        page.goto("/#/")
        page.get_by_role("button", name="Studies from a file").click()
        chosen(page, "p.zip", b"no zip")
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_role("alert")).to_contain_text("This is no package of studies")
        dialog.get_by_role("button", name="Another file").click()
        expect(dialog.get_by_role("button", name="Choose a file")).to_be_visible()


class TestATable:
    def test_columns_are_matched_faults_named_and_a_study_made(self, page: Page, database):
        page.goto("/#/")
        page.get_by_role("button", name="Studies from a file").click()
        dialog = page.get_by_role("dialog")
        chosen(page, "old.csv", TABLE.replace("#8a5a2b", "brown").encode())
        expect(dialog.get_by_role("alert")).to_contain_text("row 2, Colour: “brown”")
        expect(dialog.get_by_role("button", name=re.compile("Enter 5"))).to_be_disabled()
        dialog.get_by_role("button", name="Another file").click()
        chosen(page, "old.csv", TABLE.encode())
        would = dialog.get_by_role("region", name="As they would be entered")
        expect(would).to_contain_text("5 swatches, 4 with a colour")
        dialog.get_by_label("Grandma's skein").click()
        page.get_by_role("option", name="protein", exact=True).click()
        dialog.get_by_label("Iron", exact=True).click()
        page.get_by_role("option", name="leave it out").click()
        expect(would).not_to_contain_text("No iron")
        dialog.get_by_label("Name of the study").fill("Walnut, years ago")
        dialog.get_by_role("button", name="Enter 5 swatches").click()
        expect(page.get_by_role("button", name="Walnut, years ago ▾")).to_be_visible()
        expect(page.get_by_text("Entered later, from old.csv")).to_be_visible()
        with database.connection() as connection:
            assert connection.execute("SELECT count(*) FROM reading").fetchone()[0] == 4

    def test_a_spreadsheet_without_fibres_asks_for_one(self, page: Page):
        book = openpyxl.Workbook()
        for row in (["Plant", "L", "a", "b"], ["Weld", 80, -3, 60], ["Madder", 45.5, 40, 25]):
            book.active.append(row)
        out = io.BytesIO()
        book.save(out)
        page.goto("/#/")
        page.get_by_role("button", name="Studies from a file").click()
        dialog = page.get_by_role("dialog")
        chosen(page, "plants.xlsx", out.getvalue())
        expect(dialog.get_by_role("alert")).to_contain_text("the fibre, or one for all")
        dialog.get_by_label("All of them on").click()
        page.get_by_role("option", name="Silk", exact=True).click()
        dialog.get_by_role("button", name="Enter 2 swatches").click()
        expect(page.get_by_role("button", name="plants ▾")).to_be_visible()

    def test_a_list_goes_to_the_shelf(self, page: Page):
        page.goto("/#/shelf")
        page.get_by_role("button", name="From a list").click()
        dialog = page.get_by_role("dialog")
        page.get_by_label("List for the Shelf").set_input_files(
            {"name": "fibres.csv", "mimeType": "text/csv", "buffer": FIBRES.encode()}
        )
        expect(dialog).to_contain_text("left as they are: Wool")
        dialog.get_by_label("Odd felt").click()
        page.get_by_role("option", name="protein", exact=True).click()
        expect(dialog).to_contain_text("New: House linen, Odd felt.")
        dialog.get_by_role("button", name="Add 2 things").click()
        expect(page.get_by_role("button", name="House linen")).to_be_visible()


class TestATableOnTheScreen:
    def test_it_is_taken_away_as_it_stands(self, page: Page, database):
        """RFC 4180; cells that a spreadsheet would run are made text (OWASP, CSV injection)."""
        study, _ = seeded_study(database, name="Strengths")
        page.goto(f"/#/study/{study}/compare/real")
        table = page.get_by_role("table", name="Noise")
        expect(table).to_be_visible()
        rows = table.get_by_role("row").count()
        with page.expect_download() as download:
            page.get_by_role("button", name="Take as CSV: noise").click()
        text = Path(download.value.path()).read_bytes().decode("utf-8-sig")
        found = list(csv.reader(io.StringIO(text, newline="")))
        assert download.value.suggested_filename == "noise.csv"
        assert len(found) == rows
        assert len({len(row) for row in found}) == 1
        first = [cell.strip() for cell in table.get_by_role("row").nth(1).all_inner_texts()]
        assert found[1][0].split()[0] in first[0]
        assert not any(cell.startswith(("=", "@")) for row in found for cell in row)
