"""The endpoints, one file a subject. Each parses, calls one operation, and answers."""
