"""The trade itself: nouns, physics and rules, with no web, database, file or clock in sight."""
