"""The web server: it parses, calls the core and the store, and shapes the reply."""
