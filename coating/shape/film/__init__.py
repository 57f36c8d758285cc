"""Film work: what is spread or painted on film, bent while it is soft and peeled when it is set.

Each file is one thing that is made so: its size, its grams, how tightly it is bent. `bending` says when that goes.
"""
