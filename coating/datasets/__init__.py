"""Published constants with their source, and invented demo ingredients that say so."""
