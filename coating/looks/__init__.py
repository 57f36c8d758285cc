"""How a piece looks with all that is on it, and a day with all that is done: pictures made of what others draw."""
