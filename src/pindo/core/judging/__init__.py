"""From what stands to a finding: checks, doubt, verdicts, limits, ways out."""
