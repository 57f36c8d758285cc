"""Every word about trouble: what is seen, what it was, what to look at and what to do. Common practice, no source."""
