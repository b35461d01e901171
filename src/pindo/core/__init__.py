"""The rules of the job and their computation: no web, no store, no files but the tables, no clock."""
