"""The web API. Thin: parse, call an operation or core, answer. Imports operations, never storage rules."""

from .adapter import register

register()  # the routes are declared by it, so it stands before any of them
