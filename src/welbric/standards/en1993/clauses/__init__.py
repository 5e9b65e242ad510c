"""The equations of EN 1993-1-1, in files named after their clauses; formulas only."""
