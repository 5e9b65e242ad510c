"""Questions over many checks: sizing, screening, reserves, variants, curves, schedules.

`sizing` finds the best section, with `screening` over arrays, by `objectives`, with
`few_sections`; `frame_sizing` the sections of a whole frame, `frame_reserves` what it has left,
`made_variants` what if of a truss or a building; `reserves` what is left, `variants` what if, `curves` strengths over a length,
`schedule_checks` many members at once. The modules `..._shown` are their blocks.
"""
