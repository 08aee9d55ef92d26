"""How drawings look, kept once as data for the screen and for paper, and drawings as SVG."""
