"""Film work: spread on film, bent while it is soft, peeled when it is set."""
