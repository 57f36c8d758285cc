"""The heart of Olive Ribbon: colour, flow, heat, coats and bowls, as plain Python.

A folder is a question and a file is one answer. Nothing here knows the web site, reads a file,
looks at the clock or draws a random number: whatever varies is passed in. `python -m coating --list`
shows what can be scripted.
"""
