"""How it is joined: parts with their pads, the hook-up that follows from a build, its nets, and the cut list."""
