"""Boxes and houses of panels: their net from dimensions, what they weigh, where they are glued, in which order they
stand."""
