"""The job: pure functions over plain data, SI units inside."""
