"""What every room builds on.

Nothing of the job enters here. Types of arrays with their axis letters, and the base of all result models, leave. No
formula lives here.
"""

__all__ = ["arrays", "model"]
"""Modules that other rooms may import."""
