"""The panel: what a screen makes of the ink."""
