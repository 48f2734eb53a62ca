"""The Wash trial: what highlighters do to words and paper, and how to set them."""
