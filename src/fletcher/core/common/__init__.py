"""What every room builds on.

Nothing of the job enters here. Types of arrays with their axis letters, the base of all result models, and quantities
written in the reader's units leave. No formula lives here.
"""

__all__ = ["arrays", "model", "quantities"]
"""Modules that other rooms may import."""
