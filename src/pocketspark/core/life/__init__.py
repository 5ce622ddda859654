"""Years of a build: how its cell ages, what the seasons do, and what becomes of it while it lies unused."""
