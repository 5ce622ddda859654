"""Quantities as makers write them: read and written in one place."""
