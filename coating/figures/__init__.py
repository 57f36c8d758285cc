"""Numbers for pictures: where things hang on the ribbon, what the band shows over the next hour."""
