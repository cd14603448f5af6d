"""What is computed for a page and not kept."""
