"""What a designer says: the job, its members, loads, restraints, joints and choices.

`job` and `member` are the descriptions for Python and for files; `descriptions` is their base,
which reads quantities with their units and says in plain words what is wrong. `schedules` reads
the rows of a schedule. After validation every number is in internal units.
"""
