"""Forces and critical loads along a member, from its loads or as they were given.

`forces` solves the load cases and superposes them in combinations; `critical_load` finds when the
whole buckles laterally, by eigenvalue. Knows no design standard.
"""
