"""Open formats: InkML, SVG, PDF, PNG and the pen's own JSON. Bytes in, core objects out, and the other way round."""
