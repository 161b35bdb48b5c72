"""Inverse questions: which setting gives a wanted figure."""
