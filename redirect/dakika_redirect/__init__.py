"""The redirect of short links: a process of its own that needs neither Django nor, for a while, the database."""
