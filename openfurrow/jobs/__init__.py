"""Long or risky work beside the server: in processes with limits, and in the background."""
