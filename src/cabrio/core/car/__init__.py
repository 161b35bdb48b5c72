"""A car: facts, fitted parts, settings; the difference of two setups."""
