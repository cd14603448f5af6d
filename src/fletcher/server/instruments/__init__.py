"""Bench instruments: one reader for TCP and serial ports, and their readings as a stream."""
