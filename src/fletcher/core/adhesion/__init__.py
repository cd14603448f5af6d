"""adhesion."""
