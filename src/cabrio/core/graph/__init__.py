"""Figures and the graph they form: evaluation, what is missing."""
