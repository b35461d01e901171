"""Clear: everything that must not touch, at rest and moving; the belt run."""
