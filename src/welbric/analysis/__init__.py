"""Forces and deflections of members. Knows no standard."""
