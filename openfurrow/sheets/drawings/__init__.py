"""One module a stage: the drawing it is judged by."""
