"""Sheets, photos, files of instruments and readings, as a package holds them."""

from zesty_grid.store.counts import COUNTS
from zesty_grid.store.packages.held_table import OF_STUDY, STUDY, TRIAL, Held, HeldTable, derived, plain

READINGS = (
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
            *plain("filename", "uploaded_at", "taken_at", "camera", "taken_on"),
            Held("sheet", "sheet_id"),
            Held("light", "capture_id", "light"),
            *plain("waiting", "discarded"),
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
            derived("study", "photo.study_id", "study"),
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
        (STUDY, Held("file", "sha256"), *plain("filename", "instrument", "measured_on", "content", "kept_at")),
        OF_STUDY,
        "id",
        ("file", "file"),
    ),
    HeldTable(
        "instrument_samples",
        "instrument_sample",
        (
            Held("sample", "instrument_sample.id", "sample", derived=True),
            derived("study", "instrument_file.study_id", "study"),
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
            derived("study", "swatch.study_id", "study"),
            derived("state", "reading.after_run", "run"),
            *plain("piece", "zone"),
            Held("trial", "reading.trial_id", "trial"),
            Held("stage"),
            Held("lightness", "lab_l"),
            Held("a_star", "lab_a"),
            Held("b_star", "lab_b"),
            *plain("hex", "uncertainty_de00", "levelness_de00"),
            derived("counts", COUNTS),
            Held("damp"),
            Held("taken_on", "reading.taken_on"),
            Held("accepted_at"),
            derived("instrument", "coalesce(instrument_file.instrument, '')"),
            derived("photo", "photo.sha256"),
            Held("sheet_cell"),
            Held("calibration", "measurement_id", "measurement"),
            Held("flags", kind="json"),
            Held("note"),
            Held("said_state", kind="state"),
            *plain("shown_at", "colour_words", "evenness_de00", "chart_de00", "backing", "layers", "share"),
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
            *plain("who", "note", "at"),
            Held("zone", "zone_name"),
        ),
        "reading_id IN (SELECT reading.id FROM reading JOIN swatch ON swatch.id = swatch_id "
        "WHERE swatch.study_id = ?1)",
        "id",
    ),
    HeldTable(
        "cloth_readings",
        "cloth_reading",
        (
            *plain("cloth", "source"),
            Held("calibration", "measurement_id", "measurement"),
            Held("sheet_cell"),
            Held("sample", "instrument_sample_id", "sample"),
            Held("lightness", "lab_l"),
            Held("a_star", "lab_a"),
            Held("b_star", "lab_b"),
            *plain("hex", "colour_words", "uncertainty_de00"),
            Held("flags", kind="json"),
            *plain("note", "taken_on", "kept_at"),
        ),
        "measurement_id IN (SELECT measurement.id FROM measurement JOIN photo "
        "ON photo.id = photo_id WHERE study_id = ?1) OR instrument_sample_id IN (SELECT "
        "instrument_sample.id FROM instrument_sample JOIN instrument_file "
        "ON instrument_file.id = file_id WHERE study_id = ?1)",
        "id",
    ),
)
