"""making."""
