"""Setting up, serving, testing and measuring: what the three commands call."""
