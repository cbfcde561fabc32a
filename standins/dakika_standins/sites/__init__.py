"""The brands' own web sites."""
