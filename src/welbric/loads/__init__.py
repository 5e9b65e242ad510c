"""Load cases and the combinations of each loading standard."""
