"""Which readings count: as was said last, and else those of dry cloth."""

COUNTS = (
    "coalesce((SELECT counts FROM reading_choice WHERE reading_id = reading.id "
    "ORDER BY reading_choice.id DESC LIMIT 1), 1 - reading.damp)"
)
