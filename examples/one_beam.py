"""Check one beam without any file, and read one number of it."""

import welbric as wb

beam = wb.Member(
    mark="FB1",
    role="floor beam",
    section="W18X40",
    steel="A992",
    span="28 ft",
    restraint={"top": {"every": "7 ft"}},
    deflection={"live": 360, "total": 240},
    loads=[
        {"case": "dead", "area": "55 psf", "spacing": "8 ft"},
        {"case": "live", "area": "80 psf", "spacing": "8 ft"},
    ],
)
table = wb.check(wb.Job(name="Saltmarsh Observatory, reading room", members=[beam]))
print(table)

row = table["FB1"].governing
print(f"governed by {row.name} ({row.clause}): {row.utilisation:.3f} under {row.combination}\n")
print(table.explain("FB1", "lateral-torsional buckling"))
