"""Minutes of hands on a bath, for its steps and for what all baths cost together; common practice."""

FILL_MIN, MEASURE_MIN, ENTER_MIN, LIFT_MIN = 4.0, 6.0, 2.0, 4.0
A_SWATCH_MIN = 0.5
STIR_EVERY_MIN, A_STIR_MIN = 10, 0.5
