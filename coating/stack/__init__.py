"""What is put on a piece, layer on layer: how much of each, in which order, how parts are joined, and starts."""
