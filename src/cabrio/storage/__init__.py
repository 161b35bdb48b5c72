"""Tables and repositories. Knows core's documents, nothing of operations, web or files.

Imports go to `core` only. Every query a repository makes names the team it is for.
"""
