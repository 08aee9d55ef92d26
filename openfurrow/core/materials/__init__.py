"""Materials: one list of what to buy, cut and bring."""
