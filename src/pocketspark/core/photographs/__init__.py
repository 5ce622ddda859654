"""Photographs: what is marked on them, planes and lengths, and what is found in them by itself."""
