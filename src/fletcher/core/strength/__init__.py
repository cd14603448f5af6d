"""strength."""
