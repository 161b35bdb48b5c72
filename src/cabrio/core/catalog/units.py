"""Units at the edges: profiles, parsing of what people type, and the factors the screens show by.

Inside the core every number is SI and bare. A *measure* says, for one quantity, which unit each
profile shows and to what precision; the factors come from pint, never from a table of ours.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from typing import Any, NoReturn

import pint

from ..errors import NotANumber, UnknownUnit

PROFILES = {"n_mm": "Metric, N/mm", "kgf_mm": "Metric, kgf/mm", "imperial": "Imperial, lbf/in"}


@dataclass(frozen=True)
class Shown:
    """How one profile shows a quantity: pint unit, symbol, smallest step worth showing."""

    unit: str
    symbol: str
    precision: float


@dataclass(frozen=True)
class Measure:
    """One quantity: its SI unit and how each profile shows it (`n_mm` is the fallback)."""

    si: str
    shown: dict[str, Shown]

    def for_profile(self, profile: str) -> Shown:
        return self.shown.get(profile, self.shown["n_mm"])


def _same(unit: str, symbol: str, precision: float, si: str | None = None) -> Measure:
    return Measure(si or unit, {"n_mm": Shown(unit, symbol, precision)})


MEASURES: dict[str, Measure] = {
    "mass": Measure("kg", {"n_mm": Shown("kg", "kg", 0.5), "imperial": Shown("lb", "lb", 1.0)}),
    "dimension": Measure(
        "m", {"n_mm": Shown("mm", "mm", 1.0), "imperial": Shown("inch", "in", 0.05)}
    ),
    "height": Measure(
        "m", {"n_mm": Shown("mm", "mm", 0.5), "imperial": Shown("inch", "in", 0.03125)}
    ),
    "rate": Measure(
        "N/m",
        {
            "n_mm": Shown("N/mm", "N/mm", 1.0),
            "kgf_mm": Shown("kgf/mm", "kgf/mm", 0.1),
            "imperial": Shown("lbf/inch", "lbf/in", 5.0),
        },
    ),
    "force": Measure(
        "N",
        {
            "n_mm": Shown("N", "N", 5.0),
            "kgf_mm": Shown("kgf", "kgf", 1.0),
            "imperial": Shown("lbf", "lbf", 1.0),
        },
    ),
    "pressure": Measure(
        "Pa", {"n_mm": Shown("bar", "bar", 0.01), "imperial": Shown("psi", "psi", 0.5)}
    ),
    "energy": Measure(
        "J", {"n_mm": Shown("J", "J", 1.0), "imperial": Shown("ft*lbf", "ft·lbf", 1.0)}
    ),
    "temperature": Measure(
        "K", {"n_mm": Shown("degC", "°C", 0.5), "imperial": Shown("degF", "°F", 1.0)}
    ),
    "angle": Measure("rad", {"n_mm": Shown("degree", "°", 0.1)}),
    "fine_angle": Measure("rad", {"n_mm": Shown("degree", "°", 0.05)}),
    "ratio_slope": Measure(
        "1/m", {"n_mm": Shown("1/m", "per m", 0.01), "imperial": Shown("1/inch", "per in", 0.001)}
    ),
    "share": Measure("dimensionless", {"n_mm": Shown("percent", "%", 0.1)}),
    # a digit more than the two shares it is taken from, so that the three never disagree
    "share_off": Measure("dimensionless", {"n_mm": Shown("percent", "%", 0.01)}),
    "anti": Measure("dimensionless", {"n_mm": Shown("percent", "%", 1.0)}),
    "pitch": Measure(
        "m", {"n_mm": Shown("mm", "mm", 0.01), "imperial": Shown("inch", "in", 0.0005)}
    ),
    "fine_dimension": Measure(
        "m", {"n_mm": Shown("mm", "mm", 0.1), "imperial": Shown("inch", "in", 0.005)}
    ),
    "acceleration": Measure("m/s**2", {"n_mm": Shown("standard_gravity", "g", 0.01)}),
    "distance": Measure(
        "m", {"n_mm": Shown("km", "km", 0.001), "imperial": Shown("mile", "mi", 0.001)}
    ),
    "balance": Measure("m/s**2", {"n_mm": Shown("standard_gravity", "g", 0.001)}),
    "speed": Measure(
        "m/s", {"n_mm": Shown("km/hour", "km/h", 1.0), "imperial": Shown("mile/hour", "mph", 1.0)}
    ),
    "shaft_speed": Measure(
        "m/s", {"n_mm": Shown("mm/s", "mm/s", 1.0), "imperial": Shown("inch/s", "in/s", 0.05)}
    ),
    "area": Measure(
        "m**2", {"n_mm": Shown("m**2", "m²", 0.01), "imperial": Shown("ft**2", "ft²", 0.1)}
    ),
    "density": Measure("kg/m**3", {"n_mm": Shown("kg/m**3", "kg/m³", 0.001)}),
    "altitude": Measure("m", {"n_mm": Shown("m", "m", 10.0), "imperial": Shown("ft", "ft", 50.0)}),
    "air_pressure": Measure(
        "Pa", {"n_mm": Shown("hPa", "hPa", 1.0), "imperial": Shown("inHg", "inHg", 0.05)}
    ),
    "damping": Measure(
        "N*s/m",
        {
            "n_mm": Shown("N*s/mm", "N·s/mm", 0.01),
            "kgf_mm": Shown("kgf*s/mm", "kgf·s/mm", 0.01),
            "imperial": Shown("lbf*s/inch", "lbf·s/in", 0.5),
        },
    ),
    "roll_stiffness": Measure(
        "N*m/rad",
        {
            "n_mm": Shown("N*m/degree", "N·m/°", 1.0),
            "imperial": Shown("lbf*ft/degree", "lbf·ft/°", 1.0),
        },
    ),
    "length_per_mass": Measure(
        "m/kg", {"n_mm": Shown("mm/kg", "mm/kg", 0.1), "imperial": Shown("inch/lb", "in/lb", 0.005)}
    ),
    "torsion_moment": Measure(
        "kg*m", {"n_mm": Shown("kg*m", "kg·m", 1.0), "imperial": Shown("lb*ft", "lb·ft", 5.0)}
    ),
    "roll_gradient": Measure("rad*s**2/m", {"n_mm": Shown("degree/standard_gravity", "°/g", 0.01)}),
    "angle_per_travel": Measure(
        "rad/m",
        {"n_mm": Shown("degree/cm", "°/cm", 0.01), "imperial": Shown("degree/inch", "°/in", 0.01)},
    ),
    "per_angle": Measure("1/rad", {"n_mm": Shown("1/degree", "per °", 0.005)}),
    "torque": Measure(
        "N*m",
        {"n_mm": Shown("N*m", "N·m", 1.0), "imperial": Shown("lbf*ft", "lbf·ft", 1.0)},
    ),
    "modulus": Measure("Pa", {"n_mm": Shown("GPa", "GPa", 0.1)}),
    "second_moment": Measure("m**4", {"n_mm": Shown("mm**4", "mm⁴", 10.0)}),
    "temperature_difference": Measure(
        "K", {"n_mm": Shown("delta_degC", "°C", 0.5), "imperial": Shown("delta_degF", "°F", 1.0)}
    ),
    "frequency": _same("Hz", "Hz", 0.01),
    "ratio": _same("dimensionless", "", 0.001),
    "proportion": _same("dimensionless", "", 0.01),
    "clicks": _same("dimensionless", "clicks", 1.0),
    "turns": _same("dimensionless", "turns", 0.25),
    "flats": _same("dimensionless", "flats", 0.5),
    "count": _same("dimensionless", "", 1.0),
    "flag": _same("dimensionless", "", 1.0),
    "part": _same("dimensionless", "", 1.0),
    "curve": _same("dimensionless", "", 1.0),
    "slope": _same("dimensionless", "", 0.001),
}

# Counted things: the words people type after the figure, beside the quantity's own symbol.
COUNTED = {
    "clicks": {"click", "clicks", "out", "c"},
    "turns": {"turn", "turns", "t"},
    "flats": {"flat", "flats"},
    "count": {"hole", "holes"},
    "ratio": set[str](),
    "proportion": set[str](),
    "flag": set[str](),
    "slope": set[str](),
}

# Workshop spellings, told by the quantity they are typed for; "k" alone is kgf/mm only for a rate.
SPELLINGS: dict[str, dict[str, str]] = {
    "rate": {
        "k": "kgf/mm",
        "kg/mm": "kgf/mm",
        "kgmm": "kgf/mm",
        "lb/in": "lbf/inch",
        "lbs/in": "lbf/inch",
        "lb": "lbf/inch",
        "lbs": "lbf/inch",
        "lbf/in": "lbf/inch",
        "#": "lbf/inch",
        "n/mm": "N/mm",
        "n/m": "N/m",
        "kn/m": "kN/m",
    },
    "ratio_slope": {"per m": "1/m", "per in": "1/inch"},
    "force": {"kg": "kgf", "lb": "lbf", "lbs": "lbf", "n": "N"},
    "mass": {"lbs": "lb", "k": "kg", "l": "litre"},
    "share": {"%": "percent"},
    "share_off": {"%": "percent"},
    "anti": {"%": "percent"},
    "acceleration": {"g": "standard_gravity", "gs": "standard_gravity"},
    "distance": {"mi": "mile", "miles": "mile", "mile": "mile"},
    "balance": {"g": "standard_gravity", "gs": "standard_gravity"},
    "speed": {"km/h": "km/hour", "kph": "km/hour", "mph": "mile/hour", "kmh": "km/hour"},
    "shaft_speed": {"mm/s": "mm/s", "in/s": "inch/s", "m/s": "m/s"},
    "area": {
        "m²": "m**2",
        "m2": "m**2",
        "m^2": "m**2",
        "sq m": "m**2",
        "ft²": "ft**2",
        "ft2": "ft**2",
        "ft^2": "ft**2",
        "sq ft": "ft**2",
    },
    "density": {"kg/m³": "kg/m**3", "kg/m3": "kg/m**3", "kg/m^3": "kg/m**3"},
    "air_pressure": {"mbar": "hPa", "hpa": "hPa", "inhg": "inHg"},
    "damping": {
        "n·s/mm": "N*s/mm",
        "ns/mm": "N*s/mm",
        "kgf·s/mm": "kgf*s/mm",
        "lbf·s/in": "lbf*s/inch",
    },
    "roll_stiffness": {"n·m/°": "N*m/degree", "lbf·ft/°": "lbf*ft/degree"},
    "length_per_mass": {"mm/kg": "mm/kg", "in/lb": "inch/lb"},
    "torsion_moment": {"kg·m": "kg*m", "lb·ft": "lb*ft"},
    "per_angle": {"per °": "1/degree", "per deg": "1/degree", "per rad": "1/rad"},
    "torque": {"nm": "N*m", "n·m": "N*m", "lbf·ft": "lbf*ft", "lb·ft": "lbf*ft", "ft·lb": "lbf*ft"},
    "roll_gradient": {"°/g": "degree/standard_gravity"},
    "angle_per_travel": {"°/cm": "degree/cm", "°/in": "degree/inch"},
    "modulus": {"gpa": "GPa"},
    "second_moment": {"mm⁴": "mm**4"},
    "temperature_difference": {"°c": "delta_degC", "°f": "delta_degF", "k": "K"},
    "energy": {"ft·lbf": "ft*lbf", "ft lbf": "ft*lbf", "j": "J"},
}
EVERYWHERE = {
    '"': "inch",
    "″": "inch",
    "in": "inch",
    "°": "degree",
    "deg": "degree",
    "hz": "Hz",
    "°c": "degC",
    "°f": "degF",
    "c": "degC",
    "f": "degF",
}

_TYPED = re.compile(
    r"""^\s*(?P<sign>[-+−]?)\s*
        (?:(?P<whole>\d+)\s+(?=\d+\s*/\s*\d))?
        (?:(?P<num>\d+)\s*/\s*(?P<den>\d+)(?![\d.,])|(?P<plain>(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][-+]?\d+)?))
        \s*(?P<unit>.*?)\s*$""",
    re.VERBOSE,
)


_FEET = re.compile(
    r"""^\s*(?P<sign>[-+−]?)\s*(?P<feet>\d{1,4})\s*(?:'|′|’|ft\b)\s*
        (?P<inches>\d+(?:[.,]\d+)?(?:\s+\d+\s*/\s*\d+)?|\d+\s*/\s*\d+)?\s*(?:"|″|”|in)?\s*$""",
    re.VERBOSE,
)
FOOT = 0.3048
MAX_FIGURE_CHARS = 60
"""Letters that a typed value may have: more are not even looked at, for reading a unit takes its time."""
TOO_LARGE = 1e15
"""No figure of a car comes near, in whatever unit; a sentence about one would go on for lines."""


@cache
def _pint() -> Any:
    registry: Any = pint.UnitRegistry(autoconvert_offset_to_baseunit=True, cache_folder=None)
    return registry


@cache
def factor_and_offset(quantity: str, unit: str) -> tuple[float, float]:
    """(a, b) with shown = a·SI + b, for a unit of that quantity."""
    units, si = _pint(), MEASURES[quantity].si
    zero = float(units.Quantity(0.0, si).to(unit).magnitude)
    one = float(units.Quantity(1.0, si).to(unit).magnitude)
    return one - zero, zero


def parse(typed: str | float | int | None, quantity: str, profile: str = "n_mm") -> float:
    """What a person typed, as SI; None is an empty field.

    Takes `9 kgf/mm`, `500 lb/in`, `57 1/4`, `3/16 in`, `2' 5 1/2"`, `-1/2 flat`, `75,5`; a bare figure is in the
    profile's own unit. Raises NotANumber or UnknownUnit with a sentence that says what would do.
    """
    shown = MEASURES[quantity].for_profile(profile)
    if isinstance(typed, bool):
        raise NotANumber(f"{typed!r} is not a number.", value=typed)
    if isinstance(typed, int | float):
        if not abs(typed) < TOO_LARGE:
            raise NotANumber("That is too large to be a number here.")
        return float(typed)
    if typed is not None and not isinstance(typed, str):  # a file or a request says what it likes
        raise NotANumber("Expected a number, not a list.")
    text = (typed or "").strip()
    if len(text) > MAX_FIGURE_CHARS:
        raise NotANumber(f"At most {MAX_FIGURE_CHARS} letters make a figure with its unit.")
    example = f"{'57 1/4' if shown.symbol == 'in' else '12.5'} {shown.symbol}".strip()
    if not text:
        raise NotANumber(f"Nothing typed here yet: write a number, such as {example}.", value=typed)
    feet = _FEET.match(text) if MEASURES[quantity].si == "m" else None
    if feet is not None:
        inches = parse(f"{feet['inches'] or 0} in", quantity, profile)
        whole = int(feet["feet"]) * FOOT + inches
        return -whole if feet["sign"] in ("-", "−") else whole
    found = _TYPED.match(text)
    if found is None:
        raise NotANumber(f"“{text}” is not a number: write one such as {example}.", value=typed)
    return _in_si(_magnitude(found, text), found["unit"], quantity, shown, text)


def _magnitude(found: re.Match[str], text: str) -> float:
    if found["plain"]:
        plain = found["plain"]
        if re.fullmatch(r"[1-9]\d{0,2},\d{3}", plain):
            raise NotANumber(
                f"“{text}” can be read two ways: write {plain.replace(',', '.')} "
                f"or {plain.replace(',', '')}.",
                value=text,
            )
        value = float(plain.replace(",", "."))
    else:
        if int(found["den"]) == 0:
            raise NotANumber(f"“{text}” divides by zero.", value=text)
        value = float(Fraction(int(found["num"]), int(found["den"])))
    value += float(found["whole"] or 0)
    if not value < TOO_LARGE:
        raise NotANumber(f"“{text}” is too large to be a number here.", value=text)
    return -value if found["sign"] in "-−" and found["sign"] else value


def _in_si(value: float, unit: str, quantity: str, shown: Shown, text: str) -> float:
    unit = unit.strip()
    counted = COUNTED.get(quantity)
    if counted is not None:
        if unit.lower() in counted | {"", shown.symbol}:
            return value
        _refuse_unit(unit, quantity, shown, text)
    name = _unit_name(unit, quantity) if unit else shown.unit
    try:
        # pint raises a family of its own for unknown, malformed and mismatched units alike
        return float(_pint().Quantity(value, name).to(MEASURES[quantity].si).magnitude)
    except Exception:
        _refuse_unit(unit, quantity, shown, text)


def _unit_name(unit: str, quantity: str) -> str:
    own = SPELLINGS.get(quantity, {})
    return own.get(unit.lower()) or EVERYWHERE.get(unit.lower()) or unit


def _refuse_unit(unit: str, quantity: str, shown: Shown, text: str) -> NoReturn:
    known = sorted({one.symbol for one in MEASURES[quantity].shown.values() if one.symbol})
    would_do = f"use {' or '.join(known)}" if known else "omit the unit"
    raise UnknownUnit(f"“{unit}” in “{text}” is no unit for this number: {would_do}.", value=text)


def show(value: float, quantity: str, profile: str = "n_mm", *, unit: bool = True) -> str:
    """A value as the profile shows it, rounded to its precision: `70 N/mm`, `51.2 %`."""
    shown = MEASURES[quantity].for_profile(profile)
    scale, offset = factor_and_offset(quantity, shown.unit)
    text = rounded(value * scale + offset, shown.precision)
    return f"{text} {shown.symbol}" if unit and shown.symbol else text


_ABOUT = re.compile(r"\{([\d.]+)(?: to ([\d.]+))? ([^}]+)\}")
_ABOUT_WHAT = {
    "m": "dimension",
    "mm": "dimension",
    "kg": "mass",
    "N": "force",
    "N/mm": "rate",
    "bar": "pressure",
    "°C": "temperature",
}


def in_words(text: str, profile: str) -> str:
    """A text with each `{2.5 to 2.8 m}` in the unit of the profile, to two figures (three behind a 1); as written where that is its own."""

    def told(found: re.Match[str]) -> str:
        unit = found[3]
        quantity = _ABOUT_WHAT[unit]
        shown = MEASURES[quantity].for_profile(profile)
        if shown == MEASURES[quantity].for_profile("n_mm"):
            return found[0][1:-1]
        factor, offset = factor_and_offset(quantity, shown.unit)
        values = [
            parse(f"{group} {unit}", quantity) * factor + offset
            for group in found.groups()[:2]
            if group
        ]
        return f"{' to '.join(_about(value) for value in values)} {shown.symbol}"

    return _ABOUT.sub(told, text)


def _about(value: float) -> str:
    size = math.floor(math.log10(abs(value)))
    digits = (2 if abs(value) < 2 * 10**size else 1) - size
    return f"{round(value, digits):.{max(digits, 0)}f}"


def symbol_of(quantity: str, profile: str = "n_mm") -> str:
    """The unit that the profile shows a quantity in; empty for a plain number."""
    return MEASURES[quantity].for_profile(profile).symbol


def rounded(value: float, precision: float) -> str:
    """A value to its precision, halves away from zero, with a true minus sign: the browser's rule too."""
    steps = math.floor(abs(value) / precision + 0.5 + 1e-9)
    text = f"{steps * precision + 1e-9:.{decimals_of(precision)}f}"  # a half of the last decimal goes up
    return f"−{text}" if value < 0 and steps else text


def decimals_of(precision: float) -> int:
    """Decimals that a precision needs, three at most."""
    for places in range(3):
        if abs(precision * 10**places - round(precision * 10**places)) < 1e-9:
            return places
    return 3
