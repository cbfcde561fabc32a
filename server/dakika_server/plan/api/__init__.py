"""The plan over HTTP."""
