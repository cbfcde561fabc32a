"""Reading tables that come from files."""
