"""The set of papers: what an inspector asks to see, and what a customer keeps, as one PDF."""
