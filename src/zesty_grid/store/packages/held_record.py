"""Baths, log and trials, as a package holds them."""

from zesty_grid.store.packages.held_table import (
    OF_STUDY,
    OF_TRIAL,
    STUDY,
    SWATCH,
    TRIAL,
    Held,
    HeldTable,
    derived,
    plain,
)

RECORD = (
    HeldTable(
        "runs",
        "run",
        (
            Held("run", "id", "run", derived=True),
            STUDY,
            Held("vessel", "name"),
            Held("bath"),
            Held("bath_stage", "stage"),
            *plain("revision", "kept_at"),
            derived("begun_at", "begun_at"),
            derived("ended_at", "ended_at"),
            derived("void", "void"),
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
            derived("belongs", "either.belongs"),
            derived("in_at", "in_at"),
            derived("out_at", "out_at"),
            derived("seconds", "seconds"),
            derived("stray", "coalesce(stray, 0)"),
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
            *plain("step", "kind", "at", "entered_at", "received_at", "who"),
            derived("device", "coalesce(device.name, brought_signature.device, '')"),
            Held("corrects", "replaces", "entry"),
            derived("about", "about", "entry"),
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
            derived("kind", "kind"),
            derived("name", "name"),
            Held("created_at"),
            Held("plan", kind="codes"),
        ),
        OF_STUDY,
        "id",
        ("trial", "trial"),
    ),
    HeldTable(
        "trial_swatches", "trial_swatch", (TRIAL, SWATCH, Held("state", kind="state")), OF_TRIAL, "trial_id, swatch_id"
    ),
    HeldTable(
        "stages",
        "trial_stage",
        (TRIAL, Held("stage"), Held("label"), derived("due_on", "due_on"), derived("left_out", "left_out")),
        OF_TRIAL,
        "trial_id, stage",
    ),
    HeldTable(
        "light_logs",
        "light_log",
        (
            Held("log", "id", "log", derived=True),
            TRIAL,
            *plain("filename", "sha256"),
            Held("column", "column_name"),
            Held("watts"),
            Held("samples", kind="json"),
            Held("kept_at"),
        ),
        OF_TRIAL,
        "trial_id, id",
        ("log", "log"),
    ),
    HeldTable(
        "trial_entries",
        "trial_entry",
        (TRIAL, Held("at"), Held("document", kind="trial_entry_document")),
        OF_TRIAL,
        "id",
    ),
)
