"""Keys carry their unit: given values to SI, and answers back to the unit that was expected."""

from __future__ import annotations

from typing import Any, NoReturn

from cabrio.core.catalog.units import factor_and_offset
from cabrio.core.errors import Missing

SUFFIXES = {
    "_lbf_per_in": ("rate", "lbf/inch", "_n_per_m"),
    "_kgf_per_mm": ("rate", "kgf/mm", "_n_per_m"),
    "_n_per_mm": ("rate", "N/mm", "_n_per_m"),
    "_degc": ("temperature", "degC", "_k"),
    "_degf": ("temperature", "degF", "_k"),
    "_deg": ("angle", "degree", "_rad"),
    "_psi": ("pressure", "psi", "_pa"),
    "_mph": ("speed", "mile/hour", "_m_per_s"),
    "_mm": ("dimension", "mm", "_m"),
    "_in": ("dimension", "inch", "_m"),
    "_lb": ("mass", "lb", "_kg"),
    "_g": ("mass", "g", "_kg"),
}
"""Suffix → quantity, unit, suffix in SI; a longer one before one it ends in."""


def unit_of(key: str) -> tuple[str, float, float]:
    """The key in SI, and (a, b) with shown = a·SI + b for the unit the key carries."""
    for suffix, (quantity, unit, si) in SUFFIXES.items():
        if key.endswith(suffix):
            if suffix == "_g" and "acceleration" in key:
                quantity, unit, si = "acceleration", "standard_gravity", "_m_per_s2"
            return key.removesuffix(suffix) + si, *factor_and_offset(quantity, unit)
    return key, 1.0, 0.0


class Given(dict[str, Any]):
    """A case's given values. One that the question cannot do without and that is not there is refused."""

    def __missing__(self, key: str) -> NoReturn:
        raise Missing(f"The case does not give {key}.", number=key)

    def __getitem__(self, key: str) -> Any:
        value = super().__getitem__(key)
        if value is None:
            self.__missing__(key)
        return value

    def get(self, key: str, default: Any = None) -> Any:
        value = super().get(key)
        return default if value is None else value


def in_si(given: Any) -> Any:
    """A case's given values under their SI keys, at any depth."""
    if isinstance(given, list):
        return [in_si(one) for one in given]
    if not isinstance(given, dict):
        return given
    found = Given()
    for key, value in given.items():
        name, factor, offset = unit_of(key)
        found[name] = (
            in_si(value)
            if name == key
            else _each(value, lambda one, a=factor, b=offset: (one - b) / a)
        )
    return found


def as_expected(key: str, value: Any) -> Any:
    """An SI answer in the unit of the key that expects it."""
    _, factor, offset = unit_of(key)
    if factor == 1.0 and offset == 0.0:
        return value
    return _each(value, lambda one: one * factor + offset)


def _each(value: Any, convert: Any) -> Any:
    if isinstance(value, list | tuple):
        return [_each(one, convert) for one in value]
    return (
        convert(value) if isinstance(value, int | float) and not isinstance(value, bool) else value
    )
