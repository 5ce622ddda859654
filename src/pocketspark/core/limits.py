"""Limits that rules, steps and logs alike hold things against. Each stands here, and only here.

Common practice, no source, but where a standard is named.
"""

# Shares by which a reading may be off what was planned.
RESISTOR_OFF, REGULATOR_OFF, CURRENT_OFF = 0.02, 0.03, 0.12
# A supply rail with nothing shorted has at least this; two ends that are joined have at most this.
RAIL_OHM, JOINED_OHM = 1000.0, 1.0
# Where a 4.20 V cell may stand when its charge has ended, V; other classes by the same distance from theirs.
FULL_V = (4.15, 4.22)
# USB 2.0 at the port, from memory, and what chargers of this kind stand.
FIVE_V = (4.75, 5.5)
# Cells that are joined in parallel stand no further apart than this, V.
JOINING_V = 0.050
# A cell on its charger: better under the first, never over the second, C (IEC 62133-2 as commonly stated, from memory).
CELL_WARM_C, CELL_HOT_C = 40.0, 45.0
# Charged under the first a cell wears, under the second lithium plates out, C (data sheets, from memory).
CHARGE_COLD_C, CHARGE_FROZEN_C = 10.0, 0.0
# Volts of a charger and of a cell's class are the same within this.
SAME_V = 0.005
# A charger that ends so low that no more than this share is charged is made for another class of cell.
LEAST_FULL = 0.5
# What a healthy cell loses at most in the hour after a charge, V.
REST_DROP_V = 0.050
# What it loses in the day after that hour, V: good up to the first, over the second it discharges itself.
DROP_GOOD_V, DROP_WATCH_V = 0.010, 0.030
# Under this share of its light at half charge a lamp is not what it was (our judgement, no source).
DIM = 0.5
# Where this share of its hours does the job or more, all of them count (our judgement, no source).
LITTLE_SERVICE = 0.9
# What a chip or quarter-watt resistor may burn (common practice, no source).
RESISTOR_W = 0.25
