"""`python -m openfurrow.sheets.paper.write`: the front end's style sheets from the data."""

from pathlib import Path

from openfurrow.sheets.paper.styles import write_for_the_screen

if __name__ == "__main__":
    write_for_the_screen(Path(__file__).parents[3])
