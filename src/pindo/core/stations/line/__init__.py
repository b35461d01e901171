"""Line: driveline angles, lengths, slip and travel; chain and half shafts."""

from pindo.core.stations.line import angles, chain, half, shaft

QUESTIONS = (angles.QUESTION, shaft.QUESTION, half.QUESTION, chain.QUESTION)
