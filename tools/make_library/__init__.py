"""Makes the pictures of the library; each is computed, none is taken from elsewhere."""
