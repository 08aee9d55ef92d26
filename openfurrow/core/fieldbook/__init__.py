"""What was built: records of the field beside the plan, and what the plan says of them."""
