"""How much, and what next? Grams per colour, what to add to a bowl, and the quick card."""
