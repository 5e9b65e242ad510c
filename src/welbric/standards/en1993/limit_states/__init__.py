"""The limit states of EN 1993-1-1: clauses put together for a member."""
