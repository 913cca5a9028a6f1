"""Limits between which something lies nine times in ten."""

# Standard uncertainties from the middle to either limit: the normal distribution's 95th percentile.
LIMIT_90 = 1.645
