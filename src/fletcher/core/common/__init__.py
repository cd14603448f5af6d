"""What every room builds on.

Nothing of the job enters here. Types of arrays with their axis letters, the base of all result models, quantities
written in the reader's units, and roots found in a bracket leave. No formula of the job lives here.
"""

__all__ = ["abandon", "arrays", "model", "quantities", "roots"]
"""Modules that other rooms may import."""
