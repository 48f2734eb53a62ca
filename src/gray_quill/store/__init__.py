"""What is kept: SQLite through plain SQL, one module a subject, core objects out."""
