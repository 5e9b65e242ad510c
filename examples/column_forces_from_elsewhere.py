"""A column whose forces were combined elsewhere, in metric units, as a frame of pandas."""

import welbric as wb

column = wb.Member(
    mark="C7",
    role="column",
    section="W12X65",
    steel="A913 Gr 65",
    height="4.6 m",
    buckling={"minor_length": "2.3 m"},
    second_order="included",
    forces=[
        {
            "name": "gravity",
            "compression": "1450 kN",
            "moment_major": ["-40 kN m", "95 kN m"],
            "shear_major": "30 kN",
        },
        {
            "name": "wind from the estuary",
            "compression": "1100 kN",
            "moment_major": ["120 kN m", "-140 kN m"],
            "moment_minor": "12 kN m",
            "shear_major": "57 kN",
            "shear_minor": "5 kN",
        },
    ],
)
table = wb.check(wb.Job(name="Saltmarsh Observatory, column C7", show="metric", members=[column]))
print(table)
frame = table.to_frame()
print(frame[["check", "clause", "utilisation", "demand", "capacity", "unit", "combination"]])
