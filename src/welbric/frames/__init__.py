"""Joints and members together: the model of a frame, and its analysis.

`solution(frame)` is a frame that is solved, kept with it; `Solved.cases_of(mark)` gives the load
cases of one of its members.
"""
