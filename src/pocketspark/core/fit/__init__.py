"""Where it goes: bays, parts as blocks, the search for a placement, and what must give where there is none."""
