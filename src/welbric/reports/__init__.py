"""Tables, workings and figures, from the results of the core."""
