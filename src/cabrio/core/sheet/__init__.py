"""The car at a setup: its sheet, the working of a number, what-if."""
