"""Prepares a bare machine and runs the app. Standard library only: nothing is installed yet here."""
