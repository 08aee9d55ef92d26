"""Energy as it is asked for: each question has a sheet of charts, lists and changes to make at once."""
