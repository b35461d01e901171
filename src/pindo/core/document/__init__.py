"""What was said: the build, its rows, typed text, evidence, older versions brought up to date."""
