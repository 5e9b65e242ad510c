"""Joints and members together: the model of a frame, and its analysis.

`solution(frame)` (in `solve`) is a frame that is solved, kept with it, and
`Solved.cases_of(member)` gives the load cases of one of its members. `model` cuts it into elements,
`loads` has what acts on them, `states` the first order, `second_order` combinations on the frame as
it leans, `critical` their critical loads, `slack` what members that carry one way leave out;
`imperfections` is how it stands out of plumb, `bows` which members bow from the start, `recovery` a
member's diagrams, `shares` by how much each member lets it move.
"""
