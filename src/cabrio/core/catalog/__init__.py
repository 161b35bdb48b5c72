"""The one dictionary: what a number is, entered numbers, units and profiles, parts."""
