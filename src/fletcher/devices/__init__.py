"""Simulated bench instruments: each behaves as its kind does and speaks the line protocol of docs/devices.md.

They stand in on loopback for a kitchen scale and its like where none is at hand, and in the tests. They need nothing
else of the product.
"""
