"""Something is wrong, now: what it is, what mends it, and what it costs."""
