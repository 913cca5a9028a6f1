"""Where the tables of a study package stand in the data file.

One list for both ways: what is written out by it is read in again by it, in this order.
"""

from zesty_grid.store.packages.held_plan import PLAN
from zesty_grid.store.packages.held_readings import READINGS
from zesty_grid.store.packages.held_record import RECORD

HELD = (*PLAN, *RECORD, *READINGS)
