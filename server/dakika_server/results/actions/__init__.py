"""Changes in results: one function per intent."""
