"""The same capabilities from a terminal: JSON in and out, errors to stderr with status 2."""

import argparse
import json
import secrets
import sys
from pathlib import Path
from typing import TYPE_CHECKING, NoReturn

from pydantic import ValidationError

from zesty_grid import __version__
from zesty_grid.core.refusal import Refusal
from zesty_grid.file_verbs import DEFAULT_DATA, add_file_verbs, must_exist

if TYPE_CHECKING:
    from zesty_grid.core.read.chart import Chart
    from zesty_grid.core.shelf.shelf import Shelf

DEFAULT_PORT = 8750
CHART_HELP = "patch24, or a file: CGATS text, CSV or chart JSON"


def main(arguments: list[str] | None = None) -> None:
    options = _parser().parse_args(arguments)
    try:
        options.run(options)
    except Refusal as refusal:
        _stop({"code": refusal.code, "title": refusal.reason, "detail": refusal.cure})
    except ValidationError as error:
        _stop(
            {"code": "invalid", "title": "The file is not what was expected.", "detail": str(error.errors()[0]["msg"])}
        )
    except (OSError, UnicodeDecodeError, json.JSONDecodeError) as error:
        _stop({"code": "file", "title": "A file cannot be read or written.", "detail": str(error)})


def _stop(said: dict[str, str]) -> NoReturn:
    print(json.dumps(said), file=sys.stderr)
    raise SystemExit(2)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="zesty-grid", description=__doc__)
    parser.add_argument("--version", action="version", version=__version__)
    verbs = parser.add_subparsers(required=True, metavar="VERB")

    serve = verbs.add_parser("serve", help="start the application")
    serve.add_argument("--data", type=Path, default=DEFAULT_DATA, help="the data file")
    serve.add_argument("--demo", action="store_true", help="fill an empty file with the demo")
    serve.add_argument("--host", default="127.0.0.1")
    serve.add_argument("--port", type=int, default=DEFAULT_PORT)
    serve.add_argument(
        "--probe",
        action="append",
        default=[],
        metavar="HOST:PORT",
        help="listen to a bath probe: lines of JSON over a socket",
    )
    serve.add_argument("--tls", action="store_true", help="encrypt, with a certificate made for this network")
    serve.add_argument("--backups", metavar="FOLDER", help="where to keep them; none: make none")
    serve.set_defaults(run=_serve)

    sheet = verbs.add_parser("sheet", help="make a sheet to print")
    sheet.add_argument("--cells", type=int, default=12)
    sheet.add_argument("--chart", default="patch24", help=CHART_HELP)
    sheet.add_argument("--kind", choices=["cuttings", "hanks", "large", "window"], default="cuttings")
    sheet.add_argument("--paper", choices=["A4", "Letter"], default="A4")
    sheet.add_argument("--out", type=Path, required=True)
    sheet.set_defaults(run=_sheet)

    measure = verbs.add_parser("measure", help="measure a photo, or several of one sheet as one")
    measure.add_argument("photo", type=Path, nargs="+")
    measure.add_argument("--sheet", type=Path, help="sheet.json of the sheet in the photo")
    measure.add_argument("--chart", help=f"{CHART_HELP}; without --sheet the photo holds it alone")
    measure.add_argument("--zones", action="store_true", help="the colours of each piece apart")
    measure.set_defaults(run=_measure)

    for name, run, words in (
        ("plan", _plan, "what follows from a study plan: cells, vessels, ties, what it can tell"),
        ("weigh", _weigh, "how much of everything a study plan takes"),
    ):
        verb = verbs.add_parser(name, help=words)
        verb.add_argument("file", metavar="PLAN", help="a study plan; - for stdin")
        verb.add_argument("--data", type=Path, help="take the Shelf of this data file")
        verb.set_defaults(run=run)
    weigh = verbs.choices["weigh"]
    weigh.add_argument("--out", type=Path, help="also write bench.pdf, bench.json and CSV here")
    verbs.choices["plan"].add_argument("--swatches", type=int, help="thin out to so many swatches")
    verbs.choices["plan"].add_argument("--vessels", type=int, help="… in so many dye vessels")

    ph = verbs.add_parser("ph", help="how much of an adjuster brings a bath to a pH")
    ph.add_argument(
        "file", metavar="QUESTION", nargs="?", default="-", help="a question as JSON; - or nothing for stdin"
    )
    ph.set_defaults(run=_ph)

    for name, run, words in (
        ("dose", _dose, "the light that something gets in a window"),
        ("fade", _fade, "how a colour fades, and the dose at which a change is reached"),
        ("compare", _compare, "which differences of colour are real, and against which error"),
    ):
        verb = verbs.add_parser(name, help=words)
        verb.add_argument(
            "file", metavar="QUESTION", nargs="?", default="-", help="a question as JSON; - or nothing for stdin"
        )
        verb.set_defaults(run=run)

    add_file_verbs(verbs)

    openapi = verbs.add_parser("openapi", help="print the API's description")
    openapi.set_defaults(run=_openapi)
    return parser


def _serve(options: argparse.Namespace) -> None:
    from zesty_grid.serving.serve import Serving, serve

    serve(
        Serving(
            options.data, options.host, options.port, options.demo, options.tls, options.backups, tuple(options.probe)
        )
    )


def _sheet(options: argparse.Namespace) -> None:
    from zesty_grid.core.plan.swatch_codes import ALPHABET
    from zesty_grid.core.read.sheet_layout import lay_out_sheet
    from zesty_grid.formats.sheet_page import sheet_pdf, sheet_png

    code = "".join(secrets.choice(ALPHABET) for _ in range(6))
    most = {"hanks": 6, "large": 1, "window": 1}
    cells = min(options.cells, most.get(options.kind, options.cells))
    chart = _chart(options.chart)
    sheet = lay_out_sheet(code, cells, options.kind, options.paper, chart)
    options.out.mkdir(parents=True, exist_ok=True)
    pdf = sheet_pdf(sheet)
    (options.out / "sheet.pdf").write_bytes(pdf)
    (options.out / "sheet.png").write_bytes(sheet_png(pdf))
    (options.out / "sheet.json").write_text(sheet.model_dump_json(indent=1))
    print(sheet.model_dump_json())


def _chart(name: str) -> "Chart":
    """The common chart by its name, or one from a file."""
    from zesty_grid.core.read.chart import PATCH24, patch24
    from zesty_grid.formats.chart_file import read_chart

    if name == PATCH24:
        return patch24()
    return read_chart(Path(name).read_text(), Path(name).stem)


def _measure(options: argparse.Namespace) -> None:
    from zesty_grid.core.read.chart_alone import measure_chart
    from zesty_grid.core.read.joining import join
    from zesty_grid.core.read.measure import measure_sheet
    from zesty_grid.core.read.sheet_layout import Sheet, with_chart
    from zesty_grid.core.refusal import Refusal
    from zesty_grid.formats.photo import open_photo

    if options.sheet is None:
        if options.chart is None or len(options.photo) > 1:
            raise Refusal(
                "sheet-needed",
                "It is not said which sheet is in the photos.",
                "Give --sheet sheet.json, or --chart for one photo of a chart alone.",
            )
        picture = open_photo(options.photo[0].read_bytes())
        print(measure_chart(picture, _chart(options.chart)).model_dump_json(exclude={"cells"}))
        return
    sheet = Sheet.model_validate_json(options.sheet.read_text())
    if options.chart is not None:
        sheet = with_chart(sheet, _chart(options.chart))
    measured = [measure_sheet(open_photo(one.read_bytes()), sheet) for one in options.photo]
    found = measured[0]
    if len(measured) > 1:
        found = join(measured, [one.name for one in options.photo])
    cells = tuple(cell.with_zones() if options.zones else cell.model_copy(update={"zones": ()}) for cell in found.cells)
    print(found.model_copy(update={"cells": cells}).model_dump_json(exclude_none=True))


def _json_text(name: str) -> str:
    return sys.stdin.read() if name == "-" else Path(name).read_text()


def _shelf_for(data: Path | None) -> "Shelf":
    from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

    if data is None:
        return STARTING_SHELF
    from zesty_grid.store.opening import open_data
    from zesty_grid.store.shelf import load_shelf

    must_exist(data)
    with open_data(data).connection() as connection:
        return load_shelf(connection)


def _plan(options: argparse.Namespace) -> None:
    from zesty_grid.core.noise.levels import USUAL, starting_at
    from zesty_grid.core.plan.choices import other_choices
    from zesty_grid.core.plan.planned_study import on_paper
    from zesty_grid.core.plan.study_plan import StudyPlan
    from zesty_grid.core.plan.telling import what_it_can_tell
    from zesty_grid.core.plan.thinning import Budget, thin_out
    from zesty_grid.core.plan.working_out import work_out
    from zesty_grid.core.words.telling import with_words

    plan, shelf = StudyPlan.model_validate_json(_json_text(options.file)), _shelf_for(options.data)
    noise = starting_at(plan.noise or USUAL)
    study = on_paper(plan, shelf)
    thinned = None
    if options.swatches or options.vessels:
        budget = Budget(swatches=options.swatches or 2000, vessels=options.vessels or 2000)
        thinned = thin_out(plan, study.cells, shelf, budget, noise)
        left_out = (*plan.left_out, *thinned.left_out)
        study = on_paper(plan.model_copy(update={"left_out": left_out}), shelf)
    worked = work_out(study)
    baths = [(vessel.bath, vessel.swatches) for vessel in worked.vessels]
    telling = with_words(what_it_can_tell(study, baths, noise))
    choices = other_choices(study, list(worked.vessels))
    said = worked.model_dump(mode="json") | {
        "telling": telling.model_dump(mode="json"),
        "choices": [choice.model_dump(mode="json") for choice in choices],
    }
    print(json.dumps(said | ({"thinned": thinned.model_dump(mode="json")} if thinned else {})))


def _weigh(options: argparse.Namespace) -> None:
    from zesty_grid.core.dye.preparing import scours_ahead
    from zesty_grid.core.plan.planned_study import on_paper
    from zesty_grid.core.plan.study_plan import StudyPlan
    from zesty_grid.core.weigh.bench_papers import bench_papers
    from zesty_grid.formats.bench_csv import amounts_csv, cut_list_csv, swatches_csv
    from zesty_grid.formats.bench_pdf import bench_pdf

    plan, shelf = StudyPlan.model_validate_json(_json_text(options.file)), _shelf_for(options.data)
    planned = on_paper(plan, shelf)
    papers = bench_papers(planned, scours=scours_ahead(planned))
    if options.out:
        options.out.mkdir(parents=True, exist_ok=True)
        (options.out / "bench.pdf").write_bytes(bench_pdf(papers))
        (options.out / "bench.json").write_text(papers.model_dump_json(indent=1))
        for name, table in (("swatches", swatches_csv), ("amounts", amounts_csv), ("cut-list", cut_list_csv)):
            (options.out / f"{name}.csv").write_text(table(papers), newline="")
    print(papers.model_dump_json())


def _ph(options: argparse.Namespace) -> None:
    from zesty_grid.core.weigh.ph_bath import PhQuestion, dose_for_ph

    answer = dose_for_ph(PhQuestion.model_validate_json(_json_text(options.file)))
    print(answer.model_dump_json())


def _dose(options: argparse.Namespace) -> None:
    from zesty_grid.core.fade.window import WindowStay
    from zesty_grid.core.fade.window_light import dose_in_window

    stay = WindowStay.model_validate_json(_json_text(options.file))
    print(dose_in_window(stay).model_dump_json())


def _fade(options: argparse.Namespace) -> None:
    from zesty_grid.core.fade.fading import FadingQuestion, answer_fading

    question = FadingQuestion.model_validate_json(_json_text(options.file))
    print(answer_fading(question).model_dump_json())


def _compare(options: argparse.Namespace) -> None:
    from zesty_grid.core.compare.compared import CompareQuestion
    from zesty_grid.core.compare.real_effects import real_effects
    from zesty_grid.core.words.real_differences import in_words

    question = CompareQuestion.model_validate_json(_json_text(options.file))
    found = real_effects(question)
    said = found.model_copy(update={"words": tuple(in_words(found, question.words))})
    print(said.model_dump_json(by_alias=True))


def _openapi(_: argparse.Namespace) -> None:
    from tempfile import TemporaryDirectory

    from zesty_grid.api.application import create_application
    from zesty_grid.store.database import Database

    with TemporaryDirectory() as folder:
        app = create_application(Database(Path(folder) / "empty.db"))
        print(json.dumps(app.openapi(), indent=1, sort_keys=True))


if __name__ == "__main__":
    main()
