"""The Lag trial: how far the ink trails, which stage is to blame, and what a change would buy."""
