"""One post line: an inclined beam turning on each post, held by a strut; purlins along the row."""
