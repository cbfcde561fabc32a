"""Reports over HTTP."""
