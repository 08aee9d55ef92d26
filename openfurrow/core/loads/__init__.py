"""Loads: wind and snow on the glass by either school, and how they are combined."""
