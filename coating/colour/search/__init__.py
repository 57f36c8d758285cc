"""How a recipe is looked for: beam over doses, refinement in the continuum, descent in whole units.

Everything works on batches: a candidate is a row of grams above what is in the bowl, in the order of `Space`.
"""
