"""joints."""
