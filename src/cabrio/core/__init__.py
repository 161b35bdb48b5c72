"""The trade itself: numbers, formulas, rules. Pure Python and numpy.

Nothing here knows of a web page, a database, a clock or a user's file; the only files read are the
knowledge tables shipped beside this package. Imports go inwards only: nothing of ours outside core.
"""

from . import figures

__all__ = ["figures"]
