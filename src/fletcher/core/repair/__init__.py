"""repair."""
