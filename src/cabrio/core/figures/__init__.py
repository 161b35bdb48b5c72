"""The formulas, one subject a file. A formula is a plain function of arrays: SI in, SI out.

Arrays may carry leading batch dimensions: corner (…, 4), axle (…, 2), car (…).
"""

from importlib import import_module

SUBJECTS = ("masses", "springs", "frequency")


def load() -> None:
    """Import every subject, which enters its figures."""
    for subject in SUBJECTS:
        import_module(f"{__name__}.{subject}")
