"""Chapter E for other shapes: E4 with one axis of symmetry or none, E5, E6, E7 of tubes."""

from __future__ import annotations

import numpy as np
from numpy import maximum, minimum, pi, sqrt

from welbric.standards.aisc360.chapter_e import imperfection_factor
from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either

C1_STIFFENED, C1_TUBE, C1_OTHER = 0.18, 0.20, 0.22  # Table E7.1 (a), (b), (c)
ONE_LEG_RATIO = 1.7  # E5: of the legs
ONE_LEG_SLENDEREST = 200.0  # E5


# E4: torsional and flexural-torsional buckling


@formula("E4-9", "ro")
def polar_radius(xo, yo, Ix, Iy, Ag):
    """Polar radius of gyration about the shear centre."""
    return sqrt(xo**2 + yo**2 + (Ix + Iy) / Ag)


@formula("E4-8", "H")
def flexural_constant(xo, yo, ro):
    """Flexural constant."""
    return 1 - (xo**2 + yo**2) / ro**2


@formula("E4-5", "Fex")
def flexural_stress_x(E, Lcx, rx):
    """Elastic flexural buckling stress about the x axis."""
    return pi**2 * E / (Lcx / rx) ** 2


@formula("E4-6", "Fey")
def flexural_stress_y(E, Lcy, ry):
    """Elastic flexural buckling stress about the y axis."""
    return pi**2 * E / (Lcy / ry) ** 2


@formula("E4-7", "Fez")
def torsional_stress(E, Cw, Lcz, G, J, Ag, ro):
    """Elastic torsional buckling stress."""
    return (pi**2 * E * Cw / Lcz**2 + G * J) / (Ag * ro**2)


@formula("E4-7", "Fez")
def torsional_stress_without_warping(G, J, Ag, ro):
    """Elastic torsional buckling stress of tees and double angles, warping left out."""
    return G * J / (Ag * ro**2)


@formula("E4-3", "Fe")
def flexural_torsional_stress(Fes, Fez, H):
    """Elastic flexural-torsional buckling stress, one axis of symmetry."""
    return (Fes + Fez) / (2 * H) * (1 - sqrt(1 - 4 * Fes * Fez * H / (Fes + Fez) ** 2))


@formula("E4-4", "Fe")
def least_root(Fex, Fey, Fez, xo, yo, ro):
    """Elastic flexural-torsional buckling stress of no symmetry: the least root of the cubic."""
    return least_root_of_cubic(Fex, Fey, Fez, xo, yo, ro)


def least_root_of_cubic(Fex, Fey, Fez, xo, yo, ro):
    """Return the least root of Eq. E4-4; all three are real."""
    p, q = (xo / ro) ** 2, (yo / ro) ** 2
    a = 1 - p - q
    b = -(Fex + Fey + Fez) + p * Fey + q * Fex
    c = Fex * Fey + Fex * Fez + Fey * Fez
    d = -Fex * Fey * Fez
    # Viete's cosines: the symmetric eigenvalue problem behind the cubic has real roots.
    b, c, d = b / a, c / a, d / a
    shift = b**2 - 3 * c
    angle = (2 * b**3 - 9 * b * c + 27 * d) / (2 * maximum(shift, 1e-20 * b**2) ** 1.5)
    turn = np.arccos(np.clip(-angle, -1.0, 1.0)) / 3
    root = (-b + 2 * sqrt(maximum(shift, 0.0)) * np.cos(turn + 2 * pi / 3)) / 3
    # Where one stress is far above the others the cosine has lost digits; Newton finds them again.
    for _ in range(4):
        rise = (3 * root + 2 * b) * root + c
        value = ((root + b) * root + c) * root + d
        steep = np.abs(rise) > 1e-9 * b**2
        root = root - np.where(steep, value / np.where(steep, rise, 1.0), 0.0)
    return root


# E5: single angles loaded through one leg


@condition("E5(a)")
def is_short(L, ra):
    """The angle is short."""
    return L / ra <= 80


@formula("E5-1", "lambda_c")
def short_angle(L, ra):
    """Effective slenderness of an angle of its own, or in a planar truss."""
    return 72 + 0.75 * L / ra


@formula("E5-2", "lambda_c")
def long_angle(L, ra):
    """Effective slenderness of a long angle of its own, or in a planar truss."""
    return 32 + 1.25 * L / ra


@condition("E5(b)")
def is_short_in_space(L, ra):
    """The angle is short."""
    return L / ra <= 75


@formula("E5-3", "lambda_c")
def short_angle_in_space(L, ra):
    """Effective slenderness of a web member of a box or space truss."""
    return 60 + 0.8 * L / ra


@formula("E5-4", "lambda_c")
def long_angle_in_space(L, ra):
    """Effective slenderness of a long web member of a box or space truss."""
    return 45 + L / ra


@formula("E5(a)", "lambda_c")
def through_the_shorter_leg(lambda_c, b_l, b_s, L, rz):
    """Effective slenderness, connected through the shorter leg."""
    return maximum(lambda_c + 4 * ((b_l / b_s) ** 2 - 1), 0.95 * L / rz)


@formula("E5(b)", "lambda_c")
def through_the_shorter_leg_in_space(lambda_c, b_l, b_s, L, rz):
    """Effective slenderness in a space truss, connected through the shorter leg."""
    return maximum(lambda_c + 6 * ((b_l / b_s) ** 2 - 1), 0.82 * L / rz)


@formula("E5", "Fe")
def stress_of_slenderness(E, lambda_c):
    """Elastic buckling stress at an effective slenderness."""
    return pi**2 * E / lambda_c**2


# E6: built-up members


@formula("E6-1", "lambda_c")
def snug_tight_slenderness(lambda_o, a_c, ri):
    """Modified slenderness, connectors bolted snug-tight."""
    return sqrt(lambda_o**2 + (a_c / ri) ** 2)


@condition("E6.1(b)")
def connectors_are_near(a_c, ri):
    """The connectors are near each other."""
    return a_c / ri <= 40


@formula("E6-2a", "lambda_c")
def slenderness_as_one(lambda_o):
    """Modified slenderness, connectors welded or pretensioned and near."""
    return lambda_o


@formula("E6-2b", "lambda_c")
def fastened_slenderness(lambda_o, Ki, a_c, ri):
    """Modified slenderness, connectors welded or pretensioned."""
    return sqrt(lambda_o**2 + (Ki * a_c / ri) ** 2)


@formula("E3", "lambda_o")
def slenderness(Lc, r):
    """Slenderness of the built-up member acting as one."""
    return Lc / r


# E7: slender elements of hollow sections, stems and legs


@condition("E7.1(a)")
def is_fully_effective(lambda_b, lambda_r, Fy, Fn):
    """The element is effective as a whole at the stress Fn."""
    return lambda_b <= lambda_r * sqrt(Fy / Fn)


@formula("E7-2", "be")
def whole_width(b_flat):
    """Effective width of the element."""
    return b_flat


@formula("E7-5", "Fel")
def local_buckling_stress(c2, lambda_r, lambda_b, Fy):
    """Elastic local buckling stress."""
    return (c2 * lambda_r / lambda_b) ** 2 * Fy


@formula("E7-3", "be")
def reduced_width(b_flat, c1, Fel, Fn):
    """Effective width of a slender element."""
    return minimum(b_flat * (1 - c1 * sqrt(Fel / Fn)) * sqrt(Fel / Fn), b_flat)


def effective_width(b_flat, lambda_b, lambda_r, Fy, Fn, c1):
    """Return be of an element with the factors of Table E7.1."""
    return either(
        is_fully_effective,
        whole_width,
        slender_width,
        b_flat=b_flat,
        lambda_b=lambda_b,
        lambda_r=lambda_r,
        Fy=Fy,
        Fn=Fn,
        c1=c1,
    )


def slender_width(b_flat, lambda_b, lambda_r, Fy, Fn, c1):
    """Return be by E7-3."""
    c2 = imperfection_factor(c1=c1)
    return reduced_width(b_flat, c1, local_buckling_stress(c2, lambda_r, lambda_b, Fy), Fn)


@formula("E7", "Ae")
def effective_area_of_walls(Ag, b_flat, be_b, h_flat, be_h, t):
    """Effective area: the gross area less what buckles locally in the four walls."""
    return Ag - 2 * (b_flat - be_b) * t - 2 * (h_flat - be_h) * t


@formula("E7", "Ae")
def effective_area_of_box(Ag, b_flat, be_b, tf, h_flat, be_h, tw):
    """Effective area: the gross area less what buckles locally in the four plates."""
    return Ag - 2 * (b_flat - be_b) * tf - 2 * (h_flat - be_h) * tw


@formula("E7", "Ae")
def effective_area_less(Ae, b, be, t):
    """Effective area less what buckles locally of one element."""
    return Ae - (b - be) * t


@condition("E7.2(a)")
def tube_is_effective(lambda_t, E, Fy):
    """The round tube does not buckle locally."""
    return lambda_t <= 0.11 * E / Fy


@formula("E7-6", "Ae")
def whole_tube(Ag):
    """Effective area of a round tube."""
    return Ag


@formula("E7-7", "Ae")
def slender_tube(E, Fy, lambda_t, Ag):
    """Effective area of a slender round tube."""
    return (0.038 * E / (Fy * lambda_t) + 2 / 3) * Ag
