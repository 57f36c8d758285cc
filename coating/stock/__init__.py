"""What is in a cupboard: invented ingredients to begin with, marked so, and a maker's own bags and bottles."""
