"""The brand's own feed (RFC 4287): posts that also appear there, seen and clicked on."""
