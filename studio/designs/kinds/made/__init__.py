"""Moulded, dipped, painted, put together."""
