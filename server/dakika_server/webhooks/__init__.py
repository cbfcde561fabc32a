"""What other programs are told when something happens in a brand: signed, tried again, and kept to be looked into."""
