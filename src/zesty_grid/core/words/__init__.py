"""Facts in sentences: the one place where answers become words."""
