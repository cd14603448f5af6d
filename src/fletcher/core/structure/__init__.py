"""structure."""
