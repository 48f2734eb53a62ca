"""The check of a screen by hand: where ink lies beside the nib, and how straight its digitiser is."""
