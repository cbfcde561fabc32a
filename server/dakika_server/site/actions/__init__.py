"""Changes to what a site counts, one function per intent."""
