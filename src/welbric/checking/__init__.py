"""From forces to verdicts: the standard's checks, and what stands beside them.

`check` brings a member through its standard; `cases` is the member as the standard sees it;
`verdicts` is the one policy of verdicts, `results` rows and members, `table` the check table,
`shown` the same as blocks. `deflections`, `bearing`, `bracing`, `coverage` (what no check sees) and
`remarks` are rows and words besides.
"""
