"""Stack: crank spacing along the station axis, and what has to match from crank to input shaft."""
