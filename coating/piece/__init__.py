"""What is a piece, and what does it take? A core and an ordered stack of layers: sizes, areas, grams, order, spares."""
