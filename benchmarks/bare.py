"""The equations of a rolled I-shape to AISC 360-22 LRFD as one flat NumPy kernel.

This is what the benchmarks measure Welbric against: no formulas, no cases, no names; the same
arithmetic on the same arrays.
"""

from __future__ import annotations

import numpy as np

KSI = 6.894757293168361
E, G = 29000 * KSI, 11200 * KSI


def tension(s, d, Fy, Fu, An, U):
    """Chapter D: return the utilisations, and the strengths."""
    Pt = 0.9 * (Fy * s.A)
    Pu = 0.75 * (Fu * (An * U))
    return [d.tension / Pt, d.tension / Pu], np.minimum(Pt, Pu)


def compression(s, d, Fy, Lx, Ly):
    """Chapter E: return the utilisations, and the least strength."""
    sqrt, where = np.sqrt, np.where
    root, h = sqrt(E / Fy), s.d - 2 * (s.tf + s.r)
    lw, lf = h / s.tw, s.bf / (2 * s.tf)

    def available(Fn):
        lrw, lrf = 1.49 * root, 0.56 * root
        c2 = (1 - sqrt(1 - 4 * 0.18)) / (2 * 0.18)
        Fel = (c2 * lrw / lw) ** 2 * Fy
        he = where(lw <= lrw * sqrt(Fy / Fn), h, h * (1 - 0.18 * sqrt(Fel / Fn)) * sqrt(Fel / Fn))
        c2 = (1 - sqrt(1 - 4 * 0.22)) / (2 * 0.22)
        Fel = (c2 * lrf / lf) ** 2 * Fy
        b = s.bf / 2
        be = where(lf <= lrf * sqrt(Fy / Fn), b, b * (1 - 0.22 * sqrt(Fel / Fn)) * sqrt(Fel / Fn))
        return 0.9 * (Fn * (s.A - 4 * (b - be) * s.tf - (h - he) * s.tw))

    def stress(Fe):
        return where(Fy / Fe <= 2.25, 0.658 ** (Fy / Fe) * Fy, 0.877 * Fe)

    Pcx = available(stress(np.pi**2 * E / (Lx / s.r_major) ** 2))
    Pcy = available(stress(np.pi**2 * E / (Ly / s.r_minor) ** 2))
    Fe = (np.pi**2 * E * s.Cw / Ly**2 + G * s.J) / (s.I_major + s.I_minor)
    Pcz = available(where(Ly > Ly, stress(Fe), Fy))
    found = [d.compression / Pcx, d.compression / Pcy, where(Ly > Ly, d.compression / Pcz, 0.0)]
    return found, np.minimum(Pcx, Pcy)


def bending(s, d, Fy, Lb, free_tip):
    """Chapter F: return the utilisations, the strengths, and where it is outside."""
    sqrt, where, minimum = np.sqrt, np.where, np.minimum
    root, h = sqrt(E / Fy), s.d - 2 * (s.tf + s.r)
    lw, lf = h / s.tw, s.bf / (2 * s.tf)
    slender = lw > 3.76 * root
    Mp = Fy * s.Wpl_major
    Sx = s.Wel_major
    Cb = 12.5 * d.M_max / (2.5 * d.M_max + 3 * d.M_A + 4 * d.M_B + 3 * d.M_C)
    plain = free_tip | (d.M_major < d.M_max * (1 - 1e-9)) | (d.M_max == 0)
    Cb = where(plain, 1.0, Cb)
    Lp = 1.76 * s.r_minor * root
    rts = sqrt(sqrt(s.I_minor * s.Cw) / Sx)
    ho = s.d - s.tf
    a = s.J * 1.0 / (Sx * ho)
    Lr = 1.95 * rts * (E / (0.7 * Fy)) * sqrt(a + sqrt(a**2 + 6.76 * (0.7 * Fy / E) ** 2))
    inelastic = minimum(Cb * (Mp - (Mp - 0.7 * Fy * Sx) * ((Lb - Lp) / (Lr - Lp))), Mp)
    x = (Lb / rts) ** 2
    elastic = minimum(Cb * np.pi**2 * E / x * sqrt(1 + 0.078 * a * x) * Sx, Mp)
    Mltb = 0.9 * where(Lb <= Lp, Mp, where(Lb <= Lr, inelastic, elastic))
    lp, lr = 0.38 * root, 1.0 * root
    kc = minimum(np.maximum(4 / sqrt(lw), 0.35), 0.76)
    Mflb = 0.9 * where(
        lf <= lp,
        Mp,
        where(
            lf <= lr,
            Mp - (Mp - 0.7 * Fy * Sx) * ((lf - lp) / (lr - lp)),
            0.9 * E * kc * Sx / lf**2,
        ),
    )
    Mpy = minimum(Fy * s.Wpl_minor, 1.6 * Fy * s.Wel_minor)
    Sy = s.Wel_minor
    Mcy = 0.9 * where(
        lf <= lp,
        Mpy,
        where(
            lf <= lr,
            Mpy - (Mpy - 0.7 * Fy * Sy) * ((lf - lp) / (lr - lp)),
            0.69 * E / lf**2 * Sy,
        ),
    )
    outside = slender & (d.M_major > 0)
    found = [where(outside, np.nan, d.M_major / M) for M in (0.9 * Mp, Mltb, Mflb)]
    return [*found, d.M_minor / Mcy], minimum(Mltb, Mflb), Mcy, slender


def shear(s, d, Fy):
    """Chapter G: return the utilisations."""
    sqrt, where = np.sqrt, np.where
    root, h = sqrt(E / Fy), s.d - 2 * (s.tf + s.r)
    lw, lf = h / s.tw, s.bf / (2 * s.tf)
    Aw = s.d * s.tw
    kv = 5.34
    limit = 1.10 * sqrt(kv * E / Fy)
    Vcx = where(
        lw <= 2.24 * root,
        1.0 * (0.6 * Fy * Aw * 1.0),
        0.9 * (0.6 * Fy * Aw * where(lw <= limit, 1.0, limit / lw)),
    )
    kv = 1.2
    first, second = 1.10 * sqrt(kv * E / Fy), 1.37 * sqrt(kv * E / Fy)
    Cv2 = where(lf <= first, 1.0, where(lf <= second, first / lf, 1.51 * kv * E / (lf**2 * Fy)))
    Vcy = 0.9 * (2 * (0.6 * Fy * s.bf * s.tf * Cv2))
    return [d.V_major / Vcx, d.V_minor / Vcy]


def combined(s, d, Lx, Ly, Pc, Pt, Mcx, Mcy, slender):
    """Chapter H and Appendix 8: return the ratios."""
    where = np.where

    def second_order(inertia, L, M):
        Pe = np.pi**2 * E * inertia / L**2
        B1 = np.maximum(1.0 / (1 - 1.0 * d.compression / Pe), 1.0)
        return where(1.0 * d.compression < Pe, B1 * M, np.inf)

    def interaction(P, Pc, Mx, My):
        big = P / Pc + 8 / 9 * (Mx / Mcx + My / Mcy)
        return where(P / Pc >= 0.2, big, P / (2 * Pc) + (Mx / Mcx + My / Mcy))

    found = []
    bends = (d.M_major > 0).astype(int) + (d.M_minor > 0)
    for P, value in (
        (
            d.compression,
            interaction(
                d.compression,
                Pc,
                second_order(s.I_major, Lx, d.M_major),
                second_order(s.I_minor, Ly, d.M_minor),
            ),
        ),
        (d.tension, interaction(d.tension, Pt, d.M_major, d.M_minor)),
    ):
        together = ((P > 0) + bends) >= 2
        gone = slender & together
        found.append(where(gone, np.nan, where(together, value, 0.0)))
    return found


def all_checks(s, d, Fy, Fu, Lb, free_tip, Lx, Ly, An, U):
    """Return the utilisations of twelve limit states, each (section, combination, segment)."""
    of_tension, Pt = tension(s, d, Fy, Fu, An, U)
    of_compression, Pc = compression(s, d, Fy, Lx, Ly)
    of_bending, Mcx, Mcy, slender = bending(s, d, Fy, Lb, free_tip)
    together = combined(s, d, Lx, Ly, Pc, Pt, Mcx, Mcy, slender)
    return [*of_tension, *of_compression, *of_bending, *shear(s, d, Fy), *together]
