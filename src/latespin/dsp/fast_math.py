"""Fast approximations of angles and directions, and parabolas, for kernels."""

import numpy as np
from numba import njit

_ATAN = tuple(np.float32(x) for x in (0.9998660, -0.3302995, 0.1801410, -0.0851330, 0.0208351))
_HALF_PI, _PI, _TURN = np.float32(np.pi / 2), np.float32(np.pi), np.float32(2 * np.pi)


@njit(cache=True, nogil=True, error_model="numpy")
def angle_of(re, im):  # type: ignore[no-untyped-def]
    """The angle of a complex number to 1e-5 rad, 0 for 0 (Abramowitz and Stegun, 4.4.49)."""
    wide, high = abs(re), abs(im)
    most, least = max(wide, high), min(wide, high)
    if most == np.float32(0.0):
        return np.float32(0.0)
    x = least / most
    s = x * x
    angle = x * (_ATAN[0] + s * (_ATAN[1] + s * (_ATAN[2] + s * (_ATAN[3] + s * _ATAN[4]))))
    if high > wide:
        angle = _HALF_PI - angle
    if re < np.float32(0.0):
        angle = _PI - angle
    return -angle if im < np.float32(0.0) else angle


@njit(cache=True, nogil=True, error_model="numpy")
def direction_of(angle):  # type: ignore[no-untyped-def]
    """The complex number of length 1 at an angle, to 1e-5: by Taylor at a quarter of it, doubled twice."""
    angle = np.float32(angle)
    quarter = np.float32(0.25) * (angle - _TURN * np.float32(np.floor(angle / _TURN + np.float32(0.5))))
    s = quarter * quarter
    sine = quarter * (np.float32(1.0) - s * (np.float32(1 / 6) - s * (np.float32(1 / 120) - s * np.float32(1 / 5040))))
    cosine = np.float32(1.0) - s * (np.float32(0.5) - s * (np.float32(1 / 24) - s * np.float32(1 / 720)))
    for _ in range(2):
        sine, cosine = np.float32(2.0) * sine * cosine, np.float32(1.0) - np.float32(2.0) * sine * sine
    return np.complex64(complex(cosine, sine))


@njit(cache=True, nogil=True, error_model="numpy")
def parabola_top(left, middle, right):  # type: ignore[no-untyped-def]
    """Where the parabola through three values a bin apart is highest, bins from the middle; 0 where it has no top."""
    bend = np.float32(2.0) * middle - left - right
    return (right - left) / (np.float32(2.0) * bend) if bend > 1e-6 else np.float32(0.0)
