"""Where the tables of a study package stand in the data file.

One list for both ways: what is written out by it is read in again by it.
"""

from typing import Literal, NamedTuple

from zesty_grid.store.noise import COUNTS

# How a value is told in a package: rows go by names that last, not by their numbers.
Kind = Literal[
    "plain",
    "json",
    "codes",
    "study",
    "swatch",
    "run",
    "state",
    "trial",
    "entry",
    "photo",
    "light",
    "measurement",
    "reading",
    "file",
    "sample",
    "log",
    "entry_document",
    "trial_entry_document",
]


class Held(NamedTuple):
    """A column of a package's table, and the SQL that gives it. `derived`: it is worked out again
    when the package is taken in, and not read from it."""

    column: str
    sql: str = ""
    kind: Kind = "plain"
    derived: bool = False

    @property
    def expression(self) -> str:
        return self.sql or self.column

    @property
    def stored(self) -> str:
        """The column that it is written to."""
        return self.expression.rpartition(".")[2]


class HeldTable(NamedTuple):
    """`where` picks the rows of one study (`?1`). `own`: what kind of thing a row is, and which
    column names it. `grows`: rows are added and never changed; of others the newest are right."""

    name: str
    stored: str
    columns: tuple[Held, ...]
    where: str
    order: str
    own: tuple[Kind, str] | None = None
    grows: bool = True
    joins: str = ""
    as_rows: str = ""  # where several rows in the file are one in the package


def _derived(column: str, sql: str, kind: Kind = "plain") -> Held:
    return Held(column, sql, kind, derived=True)


OF_STUDY = "study_id = ?1"
STUDY = Held("study", "study_id", "study")
SWATCH = Held("swatch", "swatch_id", "swatch")
TRIAL = Held("trial", "trial_id", "trial")

HELD = (
    HeldTable(
        "studies",
        "study",
        (
            Held("study", "uid"),
            Held("name"),
            Held("question"),
            Held("created_at"),
            Held("revision"),
            _derived("swatch_mass_g", "swatch_mass_g"),
            _derived("liquor_ratio_ml_per_g", "liquor_ratio_ml_per_g"),
            Held("plan", kind="codes"),
            Held("kept_shelf", kind="json"),
            Held("taken_off_at", "deleted_at"),
            Held("origin", kind="codes"),
        ),
        "id = ?1",
        "id",
        ("study", "study"),
        grows=False,
    ),
    HeldTable(
        "plan_versions",
        "plan_version",
        (STUDY, Held("revision"), Held("plan", kind="codes"), Held("words"), Held("saved_at")),
        OF_STUDY,
        "revision",
    ),
    HeldTable(
        "levels",
        "study_level",
        (
            STUDY,
            Held("factor", "kind"),
            Held("level", "key"),
            _derived("label", "label"),
            _derived("value", "value"),
            Held("document", kind="codes"),
        ),
        OF_STUDY,
        "kind, key",
        grows=False,
    ),
    HeldTable(
        "swatches",
        "swatch",
        (
            Held("swatch", "swatch.code", "swatch"),
            Held("study", "swatch.study_id", "study"),
            _derived("levels", "place.levels", "json"),
            _derived("true_levels", "place.true_levels", "json"),
            _derived("replicate", "place.replicate"),
            _derived("control", "place.control"),
            _derived("planned", "place.planned"),
            Held("tie", "swatch.tie"),
            Held("fibre_key", "swatch.fibre"),
            Held("mass_g", "swatch.mass_g"),
            Held("pieces", "swatch.pieces", "json"),
            Held("parent", "swatch.parent_id", "swatch"),
        ),
        "swatch.study_id = ?1",
        "swatch.serial",
        ("swatch", "swatch"),
        grows=False,
        joins="JOIN place ON place.swatch_id = swatch.id AND place.study_id = swatch.study_id",
    ),
    HeldTable(
        "places",
        "place",
        (
            STUDY,
            SWATCH,
            Held("levels", kind="json"),
            Held("control"),
            Held("larger"),
            Held("replicate"),
            Held("planned"),
        ),
        OF_STUDY,
        "swatch_id",
        grows=False,
    ),
    HeldTable("guests", "guest", (STUDY, SWATCH), OF_STUDY, "swatch_id", grows=False),
    HeldTable("protocols", "protocol", (STUDY, Held("document", kind="json"), Held("changed_at")), OF_STUDY, "id"),
    HeldTable("day_plans", "schedule", (STUDY, Held("document", kind="json"), Held("made_at")), OF_STUDY, "id"),
    HeldTable(
        "planned_vessels",
        "planned_vessel",
        (STUDY, Held("vessel", "name"), Held("bath"), Held("key"), Held("swatches", kind="codes"), Held("planned")),
        OF_STUDY,
        "name",
        grows=False,
    ),
    HeldTable(
        "runs",
        "run",
        (
            Held("run", "id", "run", derived=True),
            STUDY,
            Held("vessel", "name"),
            Held("bath"),
            Held("bath_stage", "stage"),
            Held("revision"),
            Held("kept_at"),
            _derived("begun_at", "begun_at"),
            _derived("ended_at", "ended_at"),
            _derived("void", "void"),
            Held("document", kind="codes"),
        ),
        OF_STUDY,
        "id",
        ("run", "run"),
    ),
    HeldTable(
        "run_members",
        "run_member",
        (
            Held("run", "either.run_id", "run"),
            Held("swatch", "either.swatch_id", "swatch"),
            _derived("belongs", "either.belongs"),
            _derived("in_at", "in_at"),
            _derived("out_at", "out_at"),
            _derived("seconds", "seconds"),
            _derived("stray", "coalesce(stray, 0)"),
        ),
        "either.run_id IN (SELECT id FROM run WHERE study_id = ?1)",
        "either.run_id, swatch.serial",
        joins="LEFT JOIN passage ON passage.run_id = either.run_id "
        "AND passage.swatch_id = either.swatch_id JOIN swatch ON swatch.id = either.swatch_id",
        as_rows="(SELECT run_id, swatch_id, 1 AS belongs FROM run_member UNION "
        "SELECT run_id, swatch_id, 0 FROM passage WHERE NOT EXISTS (SELECT 1 FROM run_member "
        "WHERE run_member.run_id = passage.run_id AND run_member.swatch_id = passage.swatch_id)) "
        "AS either",
    ),
    HeldTable(
        "entries",
        "bench_entry",
        (
            Held("entry", "bench_entry.key"),
            Held("study", "bench_entry.study_id", "study"),
            Held("vessel", "bench_entry.vessel"),
            Held("step"),
            Held("kind"),
            Held("at"),
            Held("entered_at"),
            Held("received_at"),
            Held("who"),
            _derived("device", "coalesce(device.name, brought_signature.device, '')"),
            Held("corrects", "replaces", "entry"),
            _derived("about", "about", "entry"),
            Held("document", "bench_entry.document", "entry_document"),
        ),
        "bench_entry.study_id = ?1",
        "bench_entry.id",
        ("entry", "entry"),
        joins="LEFT JOIN signature ON signature.written = 'bench_entry' "
        "AND signature.row_id = bench_entry.id LEFT JOIN device ON device.id = device_id "
        "LEFT JOIN brought_signature ON brought_signature.written = 'bench_entry' "
        "AND brought_signature.row_id = bench_entry.id",
    ),
    HeldTable(
        "probe_readings",
        "probe_reading",
        (STUDY, Held("vessel"), Held("probe"), Held("at"), Held("temperature_c"), Held("ph")),
        OF_STUDY,
        "id",
    ),
    HeldTable(
        "trials",
        "trial",
        (
            Held("trial", "id", "trial", derived=True),
            STUDY,
            _derived("kind", "kind"),
            _derived("name", "name"),
            Held("created_at"),
            Held("plan", kind="codes"),
        ),
        OF_STUDY,
        "id",
        ("trial", "trial"),
    ),
    HeldTable(
        "trial_swatches",
        "trial_swatch",
        (TRIAL, SWATCH, Held("state", kind="state")),
        "trial_id IN (SELECT id FROM trial WHERE study_id = ?1)",
        "trial_id, swatch_id",
    ),
    HeldTable(
        "stages",
        "trial_stage",
        (TRIAL, Held("stage"), Held("label"), _derived("due_on", "due_on"), _derived("left_out", "left_out")),
        "trial_id IN (SELECT id FROM trial WHERE study_id = ?1)",
        "trial_id, stage",
    ),
    HeldTable(
        "light_logs",
        "light_log",
        (
            Held("log", "id", "log", derived=True),
            TRIAL,
            Held("filename"),
            Held("sha256"),
            Held("column", "column_name"),
            Held("watts"),
            Held("samples", kind="json"),
            Held("kept_at"),
        ),
        "trial_id IN (SELECT id FROM trial WHERE study_id = ?1)",
        "trial_id, id",
        ("log", "log"),
    ),
    HeldTable(
        "trial_entries",
        "trial_entry",
        (TRIAL, Held("at"), Held("document", kind="trial_entry_document")),
        "trial_id IN (SELECT id FROM trial WHERE study_id = ?1)",
        "id",
    ),
    HeldTable(
        "sheets",
        "sheet",
        (
            Held("sheet", "id"),
            STUDY,
            TRIAL,
            Held("page"),
            Held("layout", kind="json"),
            Held("assignments", kind="codes"),
            Held("created_at"),
        ),
        OF_STUDY,
        "rowid",
        grows=False,
    ),
    HeldTable(
        "photos",
        "photo",
        (
            Held("photo", "sha256"),
            STUDY,
            Held("filename"),
            Held("uploaded_at"),
            Held("taken_at"),
            Held("camera"),
            Held("taken_on"),
            Held("sheet", "sheet_id"),
            Held("light", "capture_id", "light"),
            Held("waiting"),
            Held("discarded"),
        ),
        OF_STUDY,
        "id",
        ("photo", "photo"),
        grows=False,
    ),
    HeldTable(
        "measurements",
        "measurement",
        (
            Held("calibration", "measurement.id", "measurement", derived=True),
            _derived("study", "photo.study_id", "study"),
            Held("photo", "photo_id", "photo"),
            Held("measured_at"),
        ),
        "photo.study_id = ?1",
        "measurement.id",
        ("measurement", "calibration"),
        joins="JOIN photo ON photo.id = measurement.photo_id",
    ),
    HeldTable(
        "instrument_files",
        "instrument_file",
        (
            STUDY,
            Held("file", "sha256"),
            Held("filename"),
            Held("instrument"),
            Held("measured_on"),
            Held("content"),
            Held("kept_at"),
        ),
        OF_STUDY,
        "id",
        ("file", "file"),
    ),
    HeldTable(
        "instrument_samples",
        "instrument_sample",
        (
            Held("sample", "instrument_sample.id", "sample", derived=True),
            _derived("study", "instrument_file.study_id", "study"),
            Held("file", "file_id", "file"),
            Held("swatch", "swatch_id", "swatch"),
            Held("document", kind="codes"),
        ),
        "instrument_file.study_id = ?1",
        "instrument_sample.id",
        ("sample", "sample"),
        joins="JOIN instrument_file ON instrument_file.id = file_id",
    ),
    HeldTable(
        "readings",
        "reading",
        (
            Held("reading", "reading.id", "reading", derived=True),
            Held("swatch", "reading.swatch_id", "swatch"),
            _derived("study", "swatch.study_id", "study"),
            _derived("state", "reading.after_run", "run"),
            Held("piece"),
            Held("zone"),
            Held("trial", "reading.trial_id", "trial"),
            Held("stage"),
            Held("lightness", "lab_l"),
            Held("a_star", "lab_a"),
            Held("b_star", "lab_b"),
            Held("hex"),
            Held("uncertainty_de00"),
            Held("levelness_de00"),
            _derived("counts", COUNTS),
            Held("damp"),
            Held("taken_on", "reading.taken_on"),
            Held("accepted_at"),
            _derived("instrument", "coalesce(instrument_file.instrument, '')"),
            _derived("photo", "photo.sha256"),
            Held("sheet_cell"),
            Held("calibration", "measurement_id", "measurement"),
            Held("flags", kind="json"),
            Held("note"),
            Held("said_state", kind="state"),
            Held("shown_at"),
            Held("colour_words"),
            Held("evenness_de00"),
            Held("chart_de00"),
            Held("backing"),
            Held("layers"),
            Held("share"),
            Held("warnings", kind="json"),
            Held("sample", "instrument_sample_id", "sample"),
        ),
        "swatch.study_id = ?1",
        "reading.id",
        ("reading", "reading"),
        joins="JOIN swatch ON swatch.id = reading.swatch_id "
        "LEFT JOIN measurement ON measurement.id = reading.measurement_id "
        "LEFT JOIN photo ON photo.id = measurement.photo_id "
        "LEFT JOIN instrument_sample ON instrument_sample.id = reading.instrument_sample_id "
        "LEFT JOIN instrument_file ON instrument_file.id = instrument_sample.file_id",
    ),
    HeldTable(
        "reading_choices",
        "reading_choice",
        (
            Held("reading", "reading_id", "reading"),
            Held("counts"),
            Held("state", "said_state", "state"),
            Held("who"),
            Held("note"),
            Held("at"),
        ),
        "reading_id IN (SELECT reading.id FROM reading JOIN swatch ON swatch.id = swatch_id "
        "WHERE swatch.study_id = ?1)",
        "id",
    ),
    HeldTable(
        "cloth_readings",
        "cloth_reading",
        (
            Held("cloth"),
            Held("source"),
            Held("calibration", "measurement_id", "measurement"),
            Held("sheet_cell"),
            Held("sample", "instrument_sample_id", "sample"),
            Held("lightness", "lab_l"),
            Held("a_star", "lab_a"),
            Held("b_star", "lab_b"),
            Held("hex"),
            Held("colour_words"),
            Held("uncertainty_de00"),
            Held("flags", kind="json"),
            Held("note"),
            Held("taken_on"),
            Held("kept_at"),
        ),
        "measurement_id IN (SELECT measurement.id FROM measurement JOIN photo "
        "ON photo.id = photo_id WHERE study_id = ?1) OR instrument_sample_id IN (SELECT "
        "instrument_sample.id FROM instrument_sample JOIN instrument_file "
        "ON instrument_file.id = file_id WHERE study_id = ?1)",
        "id",
    ),
)
