"""The trade itself: models, physics and rules, with no web, database, file or clock in sight."""
