"""Pictures, tables and charts as data."""
