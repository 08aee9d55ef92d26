"""Single pole: a table of a few modules on one pipe, a cross pipe on its head, rails on that."""
