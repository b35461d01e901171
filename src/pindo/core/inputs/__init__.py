"""What stands: units, quantities, what each statement resolves to, what lapses."""
