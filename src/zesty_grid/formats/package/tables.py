"""What stands in the tables of a study package: names, types, units and meanings.

Types and constraints are those of the Table Schema (Data Package 1.0).
"""

from typing import NamedTuple

VERSION = "1.0.0"


class Column(NamedTuple):
    """`unit` is empty for what has none."""

    name: str
    type: str
    description: str
    unit: str = ""
    required: bool = False


class Table(NamedTuple):
    """`key` names its rows; `refers` leads from its columns to the key of another table."""

    name: str
    description: str
    columns: tuple[Column, ...]
    key: tuple[str, ...]
    refers: tuple[tuple[tuple[str, ...], str], ...] = ()


STUDY = Column("study", "string", "Identity of the study, the same in every file", required=True)
CODE = Column("swatch", "string", "Code of the swatch, as it stands on its label", required=True)
OF_STUDY = ((("study",), "studies"),)
OF_SWATCH = ((("swatch",), "swatches"),)

TABLES = (
    Table("studies", "One row a study", (
        STUDY,
        Column("name", "string", "Name of the study", required=True),
        Column("question", "string", "What it asks"),
        Column("created_at", "string", "When it was made, UTC, ISO 8601"),
        Column("revision", "integer", "How often its plan was saved"),
        Column("swatch_mass_g", "number", "Planned dry mass of a swatch", "g"),
        Column("liquor_ratio_ml_per_g", "number", "Bath for each gram of dry fibre", "mL/g"),
        Column("plan", "object", "The whole plan, as the application keeps it"),
        Column("kept_shelf", "object", "The recipes with which dyeing began"),
    ), ("study",)),
    Table("factors", "What is crossed in a study", (
        STUDY,
        Column("factor", "string", "Kind of the factor", required=True),
        Column("position", "integer", "Its place in the plan"),
        Column("axis", "string", "Where it lies in the grid: row or column"),
    ), ("study", "factor"), OF_STUDY),
    Table("levels", "Every level that a study ever had", (
        STUDY,
        Column("factor", "string", "Kind of the factor", required=True),
        Column("level", "string", "Key of the level, as in swatches and cells", required=True),
        Column("label", "string", "Its words"),
        Column("value", "number", "Its number, in the unit of the factor, where it has one"),
        Column("document", "object", "The whole level"),
    ), ("study", "factor", "level"), OF_STUDY),
    Table("cells", "The cells of the grid that hold swatches", (
        STUDY,
        Column("cell", "string", "Levels of the cell by factor", required=True),
        Column("control", "string", "Which treatment was left out on purpose"),
        Column("swatches", "integer", "How many swatches lie in it"),
    ), ("study", "cell"), OF_STUDY),
    Table("swatches", "One row a swatch; a column for each factor, with the level it really got", (
        CODE,
        Column("study", "string", "Identity of its study; empty: of one that is not in here"),
        Column("cell", "string", "Its cell by the plan"),
        Column("replicate", "integer", "Which of the swatches of the cell"),
        Column("control", "string", "Which treatment was left out on purpose"),
        Column("tie", "string", "Knots or notches that survive the bath"),
        Column("fibre_key", "string", "Its fibre on the Shelf"),
        Column("mass_g", "number", "Dry mass", "g"),
        Column("parent", "string", "Code of the swatch that it was cut from"),
        Column("planned", "boolean", "The plan as it is now has a place for it"),
        Column("misplaced", "boolean", "It went another way than planned"),
    ), ("swatch",), OF_STUDY),
    Table("runs", "Baths that began, as they stood then", (
        Column("run", "string", "Study and number of the run", required=True),
        STUDY,
        Column("vessel", "string", "Name of the vessel"),
        Column("bath", "string", "Which bath: scour, tannin, mordant, dye, adjust, iron, wash"),
        Column("begun_at", "string", "UTC, ISO 8601"),
        Column("ended_at", "string", "UTC, ISO 8601"),
        Column("void", "boolean", "All of it was taken back"),
        Column("document", "object", "Vessel, recipe, amounts and steps"),
    ), ("run",), OF_STUDY),
    Table("run_members", "Who was in which bath, from when until when", (
        Column("run", "string", "The run", required=True), CODE,
        Column("in_at", "string", "UTC, ISO 8601"),
        Column("out_at", "string", "UTC, ISO 8601"),
        Column("seconds", "number", "Time in the bath, where it was timed", "s"),
        Column("stray", "boolean", "It did not belong there"),
    ), ("run", "swatch"), ((("run",), "runs"), *OF_SWATCH)),
    Table("entries", "The bench log; an entry is never changed, only corrected by another", (
        Column("entry", "string", "Key of the entry", required=True), STUDY,
        Column("vessel", "string", "Name of the vessel"),
        Column("step", "string", "Step of the bath"),
        Column("kind", "string", "What was done or noted"),
        Column("at", "string", "When it happened, UTC, ISO 8601"),
        Column("entered_at", "string", "When it was written down"),
        Column("received_at", "string", "When it arrived"),
        Column("who", "string", "Name that was typed"),
        Column("device", "string", "Device from which it came"),
        Column("corrects", "string", "Key of the entry that this one replaces"),
        Column("document", "object", "All else that it says"),
    ), ("entry",), OF_STUDY),
    Table("trials", "Trials of light, washing, rubbing, sweat and storing", (
        Column("trial", "string", "Study and number of the trial", required=True), STUDY,
        Column("kind", "string", "light, wash and so on"),
        Column("name", "string", "Its name"),
        Column("created_at", "string", "UTC, ISO 8601"),
        Column("plan", "object", "The whole plan of the trial"),
    ), ("trial",), OF_STUDY),
    Table("stages", "Points of a trial at which pieces are read", (
        Column("trial", "string", "The trial", required=True),
        Column("stage", "integer", "From 0, the start", required=True),
        Column("label", "string", "Its words"),
        Column("due_on", "string", "Planned day"),
        Column("left_out", "boolean", "It was left out"),
    ), ("trial", "stage"), ((("trial",), "trials"),)),
    Table("photos", "Photographs, as files beside the tables", (
        Column("photo", "string", "SHA-256 of the file", required=True), STUDY,
        Column("path", "string", "Where the file lies in the package"),
        Column("filename", "string", "What it was called"),
        Column("uploaded_at", "string", "UTC, ISO 8601"),
        Column("taken_at", "string", "By the camera's own clock"),
        Column("camera", "string", "Which camera"),
    ), ("study", "photo"), OF_STUDY),
    Table("readings", "Colours: CIE L*a*b*, D50, 2° observer", (
        Column("reading", "string", "Study and number of the reading", required=True), CODE,
        Column("study", "string", "Identity of the study"),
        Column("state", "string", "The run after which it shows the swatch; empty: as it came"),
        Column("piece", "string", "whole, dark, light or wash"),
        Column("zone", "string", "Zone of the piece, where it has more than one colour"),
        Column("trial", "string", "The trial, of a reading at a stage"),
        Column("stage", "integer", "The stage of the trial"),
        Column("lightness", "number", "L*"),
        Column("a_star", "number", "a*"),
        Column("b_star", "number", "b*"),
        Column("hex", "string", "The colour on a screen, sRGB"),
        Column("uncertainty_de00", "number", "Standard uncertainty", "ΔE00"),
        Column("levelness_de00", "number", "How far parts of it lie from its mean", "ΔE00"),
        Column("counts", "boolean", "Whether it counts; damp ones and doublets are kept without"),
        Column("damp", "boolean", "It was read damp"),
        Column("taken_on", "date", "Day of the photo or measurement"),
        Column("accepted_at", "string", "When a person accepted it"),
        Column("instrument", "string", "Which instrument; empty: the camera"),
        Column("photo", "string", "SHA-256 of the photo"),
        Column("sheet_cell", "string", "Cell of the sheet in the photo"),
        Column("calibration", "string", "File with the chart, the model and its residuals"),
        Column("flags", "array", "What was doubtful"),
        Column("note", "string", "What was said of it"),
    ), ("reading",), OF_SWATCH),
    Table("effects", "What makes a difference, by the mixed model of the application", (
        STUDY,
        Column("factor", "string", "The factor", required=True),
        Column("from_level", "string", "Level", required=True),
        Column("to_level", "string", "Other level", required=True),
        Column("delta_lightness", "number", "Mean change in L*"),
        Column("delta_a_star", "number", "Mean change in a*"),
        Column("delta_b_star", "number", "Mean change in b*"),
        Column("de00", "number", "Size of the change", "ΔE00"),
        Column("low_de00", "number", "95 of 100 lie above", "ΔE00"),
        Column("high_de00", "number", "95 of 100 lie below", "ΔE00"),
        Column("p", "number", "Corrected for all that was looked at (Holm)"),
        Column("verdict", "string", "different, the same, or cannot be told"),
        Column("error", "string", "Against which error it was judged"),
    ), ("study", "factor", "from_level", "to_level"), OF_STUDY),
    Table("shelf", "What the plans draw on", (
        Column("kind", "string", "Kind of thing", required=True),
        Column("key", "string", "Its key", required=True),
        Column("name", "string", "Its name"),
        Column("document", "object", "All that is known of it"),
    ), ("kind", "key")),
)  # fmt: skip
