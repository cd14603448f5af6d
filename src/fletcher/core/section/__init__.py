"""section."""
