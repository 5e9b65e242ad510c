"""The standard's equations and conditions, a file named after its clauses; formulas only."""
