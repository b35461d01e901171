"""The web server: routes, errors, limits. No rule of the trade is here."""
