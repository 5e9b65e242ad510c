"""What is shown, as blocks, and what renders them. Knows nothing of steel.

`blocks` are headings, paragraphs, tables and workings; `terminal`, `html` and `typst` write them;
`records` are plain rows for CSV, JSON and pandas. A result shows itself by building blocks.
"""
