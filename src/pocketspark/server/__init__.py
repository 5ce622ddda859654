"""The web app: thin routers over core, formats and store. No arithmetic here."""
