"""Mate: do the two faces bolt together through the plate, true to the crank?"""
