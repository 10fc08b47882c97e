"""A log of a drive, read against a build: what may be believed of it, what the error is made of, what to correct, what else it tells."""
