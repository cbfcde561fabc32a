"""Sources over HTTP."""
