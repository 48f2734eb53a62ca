"""The demo data: a volunteer moth count at a made-up fen, written by the simulated hands."""
