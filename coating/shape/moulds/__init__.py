"""Moulds: what a cavity holds, what a shell, a filling, an insert and a lid take of it, whether a shell stands, and how
often the moulds that there are have to be filled."""
