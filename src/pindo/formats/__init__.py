"""Open formats out: DXF, SVG, PDF, CSV. They read what the core computed and decide nothing."""
