"""Web Push (RFC 8030, 8291, 8292): posts as messages to the browsers of those who asked for them."""
