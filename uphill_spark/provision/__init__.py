"""Getting a bare machine ready: Debian packages, Python environment, page, PostgreSQL cluster. Standard library only."""
