"""Simulated measuring instruments: small stand-ins that send as real ones do."""
