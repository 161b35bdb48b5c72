"""Every check of the project; `./cabrio test` runs them all."""
