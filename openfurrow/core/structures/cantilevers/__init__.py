"""What families share whose posts stand alone under the table, built into the ground."""
