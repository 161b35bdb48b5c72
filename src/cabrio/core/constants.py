"""Physical constants and workshop defaults, each with its source."""

from math import pi

DEGREE = pi / 180
"""One degree [rad]."""

STANDARD_GRAVITY = 9.80665
"""Standard acceleration of free fall [m/s²]; exact, 3rd CGPM (1901)."""

SHEAR_MODULUS_STEEL = 79.3e9
"""Shear modulus of spring steel [Pa]; Roark's Formulas for Stress and Strain."""

YOUNGS_MODULUS_STEEL = 207e9
"""Young's modulus of spring steel [Pa]; Roark's Formulas for Stress and Strain."""

GAS_CONSTANT_DRY_AIR = 287.05287
"""Specific gas constant of dry air [J/(kg·K)]; ICAO standard atmosphere."""

GAS_CONSTANT_VAPOUR = 461.523
"""Specific gas constant of water vapour [J/(kg·K)]; Alduchov and Eskridge (1996)."""

STANDARD_TEMPERATURE, STANDARD_LAPSE, STANDARD_DENSITY = 288.15, 0.0065, 1.225
"""ICAO standard atmosphere at sea level [K], [K/m] and [kg/m³]."""

STANDARD_EXPONENT = 4.25588
"""Density against temperature in the standard troposphere; ICAO standard atmosphere."""

COIL_BIND_MARGIN = 0.006
"""Least room left before the coils touch at full bump [m]; a workshop default, team-editable."""

LEAF_ARM = 0.75
"""Effective arm of a leaf's front half over its eye-to-axle length; SAE HS-788 practice."""

HOUSING_BEND_LIMIT = 0.0015
"""Most housing bend at the brake rotor's diameter [m]; a workshop default, team-editable."""

LOW_SPEED, HIGH_SPEED = (0.0, 0.05), (0.1, 0.25)
"""Ends of the two damper bands at the shaft [m/s]."""

CRANKSHAFT_TO_CG = 0.127
"""Rule of thumb: CG above the crankshaft centre line [m]. An estimate, to be marked as one."""

LLTD_ABOVE_WEIGHT_SHARE = 0.05
"""Starting rule for a rear-driven car: front share of load transfer over its weight share; RCVD."""

STARTING_LLTD = {"rear": LLTD_ABOVE_WEIGHT_SHARE, "front": -0.08, "all": 0.0}
"""The same by driven axle: a place to begin, an estimate; RCVD ch. 18 and trade practice."""

DRIVE_REAR = {"front": 0.0, "rear": 1.0, "all": 0.5}
"""Part of the drive at the rear axle; for all-wheel drive an even split, until it is given."""

RIGID_TYRE = 1e30
"""Rate of a tyre taken as rigid [N/m]: stiffer than any sum here could notice."""
ZERO_CELSIUS = 273.15
"""0 °C [K]."""
