"""`python -m cabrio COMMAND`: what the launcher calls once the environment stands."""

import sys

from .commands import main

sys.exit(main(sys.argv[1:]))
