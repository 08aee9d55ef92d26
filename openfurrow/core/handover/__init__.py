"""What is handed over: what was built, what was said of it, and what it wants from then on."""
