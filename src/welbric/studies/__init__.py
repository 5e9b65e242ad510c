"""Questions over many checks: sizing, screening, reserves, variants, curves, schedules.

`sizing` finds the best section, with `screening` over arrays, by `objectives`, with
`few_sections`; `frame_sizing` the sections of a whole frame, as `frame_search` finds them.
`reserves` is what is left, and `frame_reserves` of a frame; `variants` what if, and `made_variants`
of a truss or a building; `curves` strengths over a length, `schedule_checks` many members at once.
The modules `..._shown` are their blocks.
"""
