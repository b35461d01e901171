"""Assemble: the order of the work, tightening, screws."""

from pindo.core.stations.assemble import joints, screws, steps

QUESTIONS = (steps.QUESTION, joints.QUESTION, screws.QUESTION)
