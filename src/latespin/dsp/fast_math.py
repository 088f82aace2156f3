"""Fast approximations of angles, directions, logarithms and exponentials for kernels, and parabolas.

Those of whole rows are done for many numbers at once; one at a time they take ten times as long. Polynomials without a source are
interpolated at Chebyshev points.
"""

import numpy as np

from latespin.dsp.kernels import kernel

_ATAN = tuple(np.float32(x) for x in (0.9998660, -0.3302995, 0.1801410, -0.0851330, 0.0208351))
_LN_2, _ROOT_2 = np.float32(np.log(2.0)), np.float32(np.sqrt(2.0))
#: Of log(1 + t)/t from √½ − 1 to √2 − 1, the highest first; of 2^t from −½ to ½.
_LOG = tuple(
    np.float32(x) for x in np.polynomial.Chebyshev.interpolate(np.log1p, 9, [np.sqrt(0.5) - 1.0, np.sqrt(2.0) - 1.0])
    .convert(kind=np.polynomial.Polynomial).coef[:0:-1]
)  # fmt: skip
_EXP = tuple(
    np.float32(x) for x in np.polynomial.Chebyshev.interpolate(np.exp2, 6, [-0.5, 0.5])
    .convert(kind=np.polynomial.Polynomial).coef[::-1]
)  # fmt: skip
_LARGEST_EXPONENT = np.float32(120.0)
_HALF_PI, _PI, _TURN = np.float32(np.pi / 2), np.float32(np.pi), np.float32(2 * np.pi)


@kernel(error_model="numpy")
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


@kernel(error_model="numpy")
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


@kernel(error_model="numpy")
def parabola_top(left, middle, right):  # type: ignore[no-untyped-def]
    """Where the parabola through three values a bin apart is highest, bins from the middle; 0 where it has no top."""
    bend = np.float32(2.0) * middle - left - right
    return (right - left) / (np.float32(2.0) * bend) if bend > 1e-6 else np.float32(0.0)


@kernel(error_model="numpy", fastmath={"contract"})
def angles_of(re, im, out):  # type: ignore[no-untyped-def]
    """:func:`angle_of` of many numbers."""
    for n in range(len(out)):
        wide, high = abs(re[n]), abs(im[n])
        most, least = max(wide, high), min(wide, high)
        x = least / max(most, np.float32(1e-30))
        s = x * x
        angle = x * (_ATAN[0] + s * (_ATAN[1] + s * (_ATAN[2] + s * (_ATAN[3] + s * _ATAN[4]))))
        angle = _HALF_PI - angle if high > wide else angle
        angle = _PI - angle if re[n] < np.float32(0.0) else angle
        out[n] = -angle if im[n] < np.float32(0.0) else angle


@kernel(error_model="numpy", fastmath={"contract"})
def directions_of(angles, out):  # type: ignore[no-untyped-def]
    """:func:`direction_of` of many angles; out : real and imaginary parts in turn."""
    for n in range(len(angles)):
        angle = angles[n]
        quarter = np.float32(0.25) * (angle - _TURN * np.floor(angle / _TURN + np.float32(0.5)))
        s = quarter * quarter
        sine = quarter * (
            np.float32(1.0) - s * (np.float32(1 / 6) - s * (np.float32(1 / 120) - s * np.float32(1 / 5040)))
        )
        cosine = np.float32(1.0) - s * (np.float32(0.5) - s * (np.float32(1 / 24) - s * np.float32(1 / 720)))
        twice, along = np.float32(2.0) * sine * cosine, np.float32(1.0) - np.float32(2.0) * sine * sine
        out[2 * n] = np.float32(1.0) - np.float32(2.0) * twice * twice
        out[2 * n + 1] = np.float32(2.0) * twice * along


@kernel(error_model="numpy", fastmath={"contract"})
def logarithms_of(values, least, bits, out):  # type: ignore[no-untyped-def]
    """Natural logarithms, to 1e-5, of values ≥ 0 plus ``least``, which is no denormal number; bits : int32, to work in."""
    for n in range(len(values)):
        out[n] = values[n] + least
    exponents, mantissas = out.view(np.int32), bits.view(np.float32)
    for n in range(len(values)):
        whole = exponents[n]
        bits[n] = (whole & 0x7FFFFF) | 0x3F800000
        exponents[n] = (whole >> 23) - 127
    for n in range(len(values)):
        mantissa, exponent = mantissas[n], np.float32(exponents[n])
        above = mantissa > _ROOT_2
        mantissa = mantissa * np.float32(0.5) if above else mantissa
        exponent = exponent + np.float32(1.0) if above else exponent
        t = mantissa - np.float32(1.0)
        total = _LOG[0] * t + _LOG[1]
        total = ((total * t + _LOG[2]) * t + _LOG[3]) * t + _LOG[4]
        total = (((total * t + _LOG[5]) * t + _LOG[6]) * t + _LOG[7]) * t + _LOG[8]
        mantissas[n] = exponent * _LN_2 + total * t
    for n in range(len(values)):
        out[n] = mantissas[n]


@kernel(error_model="numpy", fastmath={"contract"})
def exponentials_of(values, bits, out):  # type: ignore[no-untyped-def]
    """E to the power of values, to 1e-5 of it, from 2^−120 to 2^120; bits : int32, to work in."""
    powers = bits.view(np.float32)
    for n in range(len(values)):
        power = max(-_LARGEST_EXPONENT, min(_LARGEST_EXPONENT, values[n] / _LN_2))
        whole = np.floor(power + np.float32(0.5))
        t = power - whole
        total = ((_EXP[0] * t + _EXP[1]) * t + _EXP[2]) * t + _EXP[3]
        out[n] = ((total * t + _EXP[4]) * t + _EXP[5]) * t + _EXP[6]
        bits[n] = (np.int32(whole) + np.int32(127)) << np.int32(23)
    for n in range(len(values)):
        out[n] *= powers[n]
