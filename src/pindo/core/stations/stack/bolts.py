"""What a bolt leaves of its thread: shared by spacer pieces, pads and end bolts. All lengths mm."""

from pindo.core.numbers import Numbers


def thread_in_use(long: Numbers, clamped: Numbers) -> Numbers:
    """Bolt length under the head less what it clamps. [mm]"""
    return long - clamped


def thread_wanted(bolt: Numbers, thread_steel_factor: float) -> Numbers:
    """Thread in use that holds a bolt in steel, in diameters of it. [mm]"""
    return thread_steel_factor * bolt


def thread_beyond(depth: Numbers, long: Numbers, clamped: Numbers) -> Numbers:
    """Full thread of the hole beyond the end of the bolt. [mm]"""
    return depth - (long - clamped)
