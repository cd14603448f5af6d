"""materials."""
