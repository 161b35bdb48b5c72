"""Open formats in and out. Knows core and the tables; nothing of operations or the web."""
