"""F11 and F12: bars, and unsymmetrical shapes."""

from __future__ import annotations

from numpy import minimum, pi, sqrt

from welbric.standards.aisc360.symbols import condition, formula


@formula("F11-1", "Mp")
def plastic_moment_of_bar(Fy, Z, S):
    """Plastic moment of a bar."""
    return minimum(Fy * Z, 1.6 * Fy * S)


@condition("F11.2(a)")
def bar_yields(Lb, d, t, E, Fy):
    """Lateral-torsional buckling does not apply."""
    return Lb * d / t**2 <= 0.08 * E / Fy


@condition("F11.2(b)")
def bar_buckles_inelastically(Lb, d, t, E, Fy):
    """Inelastic lateral-torsional buckling."""
    return Lb * d / t**2 <= 1.9 * E / Fy


@formula("F11-2", "Mn")
def inelastic_bar(Cb, Lb, d, t, Fy, E, S, Mp):
    """Nominal strength of a bar, inelastic lateral-torsional buckling."""
    return minimum(Cb * (1.52 - 0.274 * (Lb * d / t**2) * Fy / E) * Fy * S, Mp)


@formula("F11-3", "Mn")
def elastic_bar(Cb, E, Lb, d, t, S, Mp):
    """Nominal strength of a bar, elastic lateral-torsional buckling."""
    return minimum(1.9 * E * Cb / (Lb * d / t**2) * S, Mp)


@formula("F12.2", "Mcr")
def critical_moment(E, Iz, Lb, beta_w, Cw, G, J, Cb):
    """Elastic lateral-torsional buckling moment about the major principal axis."""
    return (
        Cb
        * (pi**2 * E * Iz / Lb**2)
        * (-beta_w / 2 + sqrt((beta_w / 2) ** 2 + Cw / Iz + G * J * Lb**2 / (pi**2 * E * Iz)))
    )


@formula("F12-3", "Fcr")
def buckling_stress(Mcr, S, Fy):
    """Critical stress in lateral-torsional buckling, at most the yield stress."""
    return minimum(Mcr / S, Fy)


@formula("F12-1", "Mn")
def elastic_strength(Fcr, S):
    """Nominal strength at the critical stress."""
    return Fcr * S
