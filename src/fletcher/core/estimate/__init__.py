"""estimate."""
