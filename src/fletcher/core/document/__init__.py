"""document."""
