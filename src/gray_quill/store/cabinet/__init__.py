"""Everything that is kept, as things: found, followed to where they are used, copied, named, binned, let go."""
