"""Physical constants, each with its source."""

STANDARD_GRAVITY = 9.80665
"""Standard acceleration of free fall [m/s²]; exact, 3rd CGPM (1901)."""

COIL_BIND_MARGIN = 0.006
"""Least room left before the coils touch at full bump [m]; a workshop default, team-editable."""
