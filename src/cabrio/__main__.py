"""`python -m cabrio COMMAND`: what the launcher calls once the environment stands."""

from .commands import main

main(prog_name="cabrio")
