"""Gray Quill: write once, then tune digital ink with evidence."""

__version__ = "0.20.2"
