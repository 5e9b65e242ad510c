"""Walk up the list by weight: every W16 and W18 as a floor beam, and what fails each."""

import welbric as wb


def beam(section: str) -> wb.Member:
    return wb.Member(
        mark=section,
        section=section,
        span="30 ft",
        restraint={"top": {"every": "10 ft"}},
        deflection={"live": 360},
        loads=[{"case": "dead", "line": "0.5 kip/ft"}, {"case": "live", "line": "0.9 kip/ft"}],
    )


shapes = wb.catalogue()
names = [n for n in shapes.names if n.startswith(("W16X", "W18X"))]
table = wb.check(wb.Job(name="Candidates", members=[beam(name) for name in names]))

for result in sorted(table, key=lambda r: r.member.section.mass):
    row = result.governing
    print(
        f"{result.member.section.name:8} {result.utilisation:5.2f}  {result.status:4}  {row.name}"
    )
