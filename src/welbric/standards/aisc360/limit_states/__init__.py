"""The limit states of each kind of shape, its ends and its web, by the equations of `clauses`."""
