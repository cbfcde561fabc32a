"""Ideas: kept from wherever one comes upon them, talked about, and written out as drafts that stay linked to them."""
