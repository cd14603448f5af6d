"""validation."""
