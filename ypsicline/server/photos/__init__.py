"""Photos of a job: taken in, measured, mended by hand, kept as they are."""
