"""Demo jobs: invented places, people and products."""
