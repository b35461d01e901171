"""Clear: what comes too near what, and the belt run."""

from pindo.core.stations.clear import belt, pairs

QUESTIONS = (pairs.QUESTION, belt.QUESTION)
