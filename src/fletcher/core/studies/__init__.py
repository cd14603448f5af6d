"""studies."""
