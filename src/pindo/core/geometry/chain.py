"""Chain drive: length in pitches, plane, gearing, road speed; how much of a hub sits on its shaft.

Sources: chain length in pitches, closed form of the usual handbook formula (from memory); key
shear, closed form.
"""

import numpy as np

from pindo.core.numbers import Numbers, over


def length_pitches(
    chain_centre_mm: Numbers, chain_pitch_mm: Numbers, driver_teeth: Numbers, driven_teeth: Numbers
) -> Numbers:
    """Chain length in pitches [-]: 2C/p + (N1 + N2)/2 + ((N2 - N1)/(2 pi))² p/C."""
    turn = ((driven_teeth - driver_teeth) / (2.0 * np.pi)) ** 2
    return (
        2.0 * chain_centre_mm / chain_pitch_mm
        + (driver_teeth + driven_teeth) / 2.0
        + turn * chain_pitch_mm / chain_centre_mm
    )


def centre_for(
    chain_links: Numbers, chain_pitch_mm: Numbers, driver_teeth: Numbers, driven_teeth: Numbers
) -> Numbers:
    """Centre distance at which a chain of so many pitches is straight: the inverse of the
    length. [mm]
    """
    half = chain_links - (driver_teeth + driven_teeth) / 2.0
    turn = ((driven_teeth - driver_teeth) / (2.0 * np.pi)) ** 2
    return chain_pitch_mm / 4.0 * (half + np.sqrt(np.maximum(half**2 - 8.0 * turn, 0.0)))


def take_up_left(
    take_up_mm: Numbers,
    chain_links: Numbers,
    chain_pitch_mm: Numbers,
    chain_centre_mm: Numbers,
    driver_teeth: Numbers,
    driven_teeth: Numbers,
) -> Numbers:
    """Take-up left after the chain is straight: the engine slides from the middle to where the
    chain wants it. [mm]
    """
    return take_up_mm - np.abs(
        centre_for(chain_links, chain_pitch_mm, driver_teeth, driven_teeth) - chain_centre_mm
    )


def odd_pitches(chain_links: Numbers) -> Numbers:
    """1 for an odd number of pitches, which needs a cranked link, else 0 [-]."""
    return np.asarray(chain_links) % 2


def free_span(
    chain_centre_mm: Numbers, chain_pitch_mm: Numbers, driver_teeth: Numbers, driven_teeth: Numbers
) -> Numbers:
    """Free length of chain between two sprockets: sqrt(C² - (r2 - r1)²) over their pitch
    circles. [mm]
    """
    r1, r2 = (
        chain_pitch_mm / (2.0 * np.sin(np.pi / np.maximum(n, 2.0)))
        for n in (driver_teeth, driven_teeth)
    )
    return np.sqrt(np.maximum(chain_centre_mm**2 - (r2 - r1) ** 2, 1e-9))


def plane_angle_deg(
    driver_plane_mm: Numbers, driven_plane_mm: Numbers, span_mm: Numbers
) -> Numbers:
    """Angle of the chain off the sprockets' plane: atan(offset / free span). [deg]"""
    return np.degrees(np.arctan(np.abs(driver_plane_mm - driven_plane_mm) / span_mm))


def road_speed_kmh(
    engine_rpm: Numbers,
    reduction_ratio: Numbers,
    driver_teeth: Numbers,
    driven_teeth: Numbers,
    tyre_mm: Numbers,
) -> Numbers:
    """Road speed at an engine speed with the clutch locked. [km/h]"""
    wheel_rpm = engine_rpm / reduction_ratio * driver_teeth / driven_teeth
    return wheel_rpm * np.pi * tyre_mm * 60.0 / 1e6


def torque_nm(engine_power_kw: Numbers, engine_rpm: Numbers) -> Numbers:
    """T = 9549 P/n. [N·m]"""
    return over(9549.0 * engine_power_kw, engine_rpm)


def hub_wanted(
    engine_power_kw: Numbers,
    engine_rpm: Numbers,
    clutch_shaft_mm: Numbers,
    clutch_key_mm: Numbers,
    key_shear_mpa: float,
    key_service_factor: float,
) -> Numbers:
    """Length of key that carries the torque in shear: 2 T k/(d w tau). [mm]"""
    return (
        2.0
        * torque_nm(engine_power_kw, engine_rpm)
        * 1e3
        * key_service_factor
        / (clutch_shaft_mm * clutch_key_mm * key_shear_mpa)
    )
