"""Open formats, one module each: what goes in as a file and what comes out as one."""
