"""Questions over many checks: sizing, screening, reserves, variants, curves, schedules.

`sizing` finds the best section, with `screening` over arrays, by `objectives`, with
`few_sections`; `reserves` what is left, `variants` what if, `curves` strengths over a length,
`schedule_checks` many members at once. The modules `..._shown` are their blocks.
"""
