"""The web API. Thin: parse, call an operation or core, answer. Imports operations, never storage rules."""
