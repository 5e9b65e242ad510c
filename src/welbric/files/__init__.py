"""Files: reading jobs, catalogues and schedules, and writing back what changes.

`jobs` is the job file with its comments and its schema, `schedules` the tables of members,
`schedule_results` the same with their results, `frame_tables` a frame as tables, in and out. `data`
is the demo.
"""
