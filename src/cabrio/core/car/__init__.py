"""A car: facts, fitted parts, settings; a change, and what many of them make of it."""

from ..catalog.parts import Spring as Spring
from .lines import Line as Line
from .lines import differences as differences
from .lines import with_lines as with_lines
from .model import Adjuster as Adjuster
from .model import Car as Car
from .model import Given as Given
from .model import PreviousPart as PreviousPart
from .model import Setup as Setup
from .settings import check_setting as check_setting
from .settings import check_setup as check_setup
from .settings import first_setup as first_setup
from .settings import off_the_ground as off_the_ground
