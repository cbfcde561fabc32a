"""Files: stored while they wait, looked into, read in a stream, undone, written out."""
