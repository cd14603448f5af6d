"""layup."""
