"""E4: torsional and flexural-torsional buckling."""

from __future__ import annotations

from numpy import pi, sqrt

from welbric.standards.aisc360.symbols import condition, formula
from welbric.standards.elastic import least_root_of_cubic


@formula("E4-2", "Fe")
def torsional_buckling_stress(E, Cw, Lcz, G, J, Ix, Iy):
    """Elastic stress in torsional buckling of doubly symmetric shapes."""
    return (pi**2 * E * Cw / Lcz**2 + G * J) / (Ix + Iy)


@formula("C-E4-1", "Fe")
def constrained_axis_stress(E, Cw, Iy, y_a, Lcz, G, J, Ix, Ag):
    """Elastic stress in torsional buckling about an axis that lateral restraint holds."""
    return 0.9 * (pi**2 * E * (Cw + Iy * y_a**2) / Lcz**2 + G * J) / (Ix + Iy + Ag * y_a**2)


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


@condition("E4")
def torsional_length_is_longer(Lcz, Lcy):
    """Torsional buckling has a longer effective length than minor-axis buckling."""
    return Lcz > Lcy


@formula("E4", "Fn")
def torsion_not_governing(Fy):
    """Torsional buckling need not be considered."""
    return 1.0 * Fy


@formula("E4", "lambda_r")
def torsion_limit(E, Fy):
    """Leg slenderness beyond which single angles are verified by E4."""
    return 0.71 * (E / Fy) ** 0.5
