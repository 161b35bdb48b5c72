"""Readings, how they stand, and the rechecks that changes cause."""
