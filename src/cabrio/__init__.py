"""Cabrio: the chassis engineer's model of the car, its order of work and its record."""

__version__ = "0.1.0"
