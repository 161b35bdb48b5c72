"""Time domain: a quarter and a whole car on real dampers, to compare settings, not to time laps."""
