"""Two post lines: short posts on the side of the lower edge, long ones behind, a beam between them."""
