"""Log: what was done, what is for now, what it cost."""
