"""When what is done by whom: tasks from the plan, what holds them, and the earliest finish."""
