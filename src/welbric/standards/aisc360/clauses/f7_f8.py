"""F7 and F8: hollow sections."""

from __future__ import annotations

from numpy import minimum, sqrt

from welbric.standards.aisc360.symbols import condition, formula


@formula("F7-1", "Mp")
def plastic_moment(Fy, Z):
    """Plastic moment."""
    return Fy * Z


@condition("F7.2(a)")
def wall_is_compact(lambda_b, lambda_p):
    """The wall in compression is compact."""
    return lambda_b <= lambda_p


@condition("F7.2(b)")
def wall_is_noncompact(lambda_b, lambda_r):
    """The wall in compression is not slender."""
    return lambda_b <= lambda_r


@formula("F7.2(a)", "Mn")
def no_wall_buckling(Mp):
    """Nominal strength, compact walls."""
    return Mp


@formula("F7-2", "Mn")
def noncompact_wall(Mp, Fy, S, lambda_b, E):
    """Nominal strength, noncompact wall in compression."""
    return minimum(Mp - (Mp - Fy * S) * (3.57 * lambda_b * sqrt(Fy / E) - 4.0), Mp)


@formula("F7-4", "be")
def effective_wall(t, E, Fy, lambda_b, b_flat):
    """Effective width of a slender wall in compression, hollow sections."""
    return minimum(1.92 * t * sqrt(E / Fy) * (1 - 0.38 / lambda_b * sqrt(E / Fy)), b_flat)


@formula("F7-5", "be")
def effective_plate(t, E, Fy, lambda_b, b_flat):
    """Effective width of a slender flange, box sections."""
    return minimum(1.92 * t * sqrt(E / Fy) * (1 - 0.34 / lambda_b * sqrt(E / Fy)), b_flat)


@formula("F7.2(c)", "Se")
def effective_modulus(I, Ag, H_out, t, b_flat, be):
    """Elastic modulus to the compression face without what buckles of its wall."""
    return (
        I
        - (b_flat - be) * t * ((H_out - t) / 2) ** 2
        - ((b_flat - be) * t * (H_out - t) / 2) ** 2 / (Ag - (b_flat - be) * t)
    ) / (H_out / 2 + (b_flat - be) * t * (H_out - t) / 2 / (Ag - (b_flat - be) * t))


@formula("F7-3", "Mn")
def slender_wall(Fy, Se):
    """Nominal strength, slender wall in compression."""
    return Fy * Se


@condition("F7.3(a)")
def side_is_compact(lambda_h, lambda_p):
    """The walls in bending are compact."""
    return lambda_h <= lambda_p


@condition("F7.3(b)")
def side_is_noncompact(lambda_h, lambda_r):
    """The walls in bending are not slender."""
    return lambda_h <= lambda_r


@formula("F7-6", "Mn")
def noncompact_side(Mp, Fy, S, lambda_h, E):
    """Nominal strength, noncompact walls in bending."""
    return minimum(Mp - (Mp - Fy * S) * (0.305 * lambda_h * sqrt(Fy / E) - 0.738), Mp)


@formula("F7.3(c)", "aw")
def walls_to_flange(h_flat, tw, b_flat, tf):
    """Twice the area of a wall over the flange's."""
    return 2 * h_flat * tw / (b_flat * tf)


@formula("F7-7", "Mn")
def slender_side(Rpg, Fy, S):
    """Nominal strength, compression flange yielding with slender walls in bending."""
    return Rpg * Fy * S


@formula("F7-9", "Fcr")
def slender_flange_stress(E, kc, lambda_b):
    """Critical stress of a slender flange beside slender walls."""
    return 0.9 * E * kc / lambda_b**2


@formula("F7-8", "Mn")
def slender_side_and_flange(Rpg, Fcr, S):
    """Nominal strength, flange local buckling with slender walls in bending."""
    return Rpg * Fcr * S


@formula("F7-12", "Lp")
def yielding_length_limit(E, ry, J, Ag, Mp):
    """Unbraced length up to which the section yields."""
    return 0.13 * E * ry * sqrt(J * Ag) / Mp


@formula("F7-13", "Lr")
def inelastic_length_limit(E, ry, J, Ag, Fy, Sx):
    """Unbraced length up to which buckling is inelastic."""
    return 2 * E * ry * sqrt(J * Ag) / (0.7 * Fy * Sx)


@formula("F7-10", "Mn")
def inelastic_buckling(Cb, Mp, Fy, Sx, Lb, Lp, Lr):
    """Nominal strength, inelastic lateral-torsional buckling."""
    return minimum(Cb * (Mp - (Mp - 0.7 * Fy * Sx) * ((Lb - Lp) / (Lr - Lp))), Mp)


@formula("F7-11", "Mn")
def elastic_buckling(E, Cb, J, Ag, Lb, ry, Mp):
    """Nominal strength, elastic lateral-torsional buckling."""
    return minimum(2 * E * Cb * sqrt(J * Ag) / (Lb / ry), Mp)


@condition("F8.2(a)")
def tube_is_compact(lambda_t, lambda_p):
    """The tube is compact."""
    return lambda_t <= lambda_p


@condition("F8.2(b)")
def tube_is_noncompact(lambda_t, lambda_r):
    """The tube is not slender."""
    return lambda_t <= lambda_r


@formula("F8-2", "Mn")
def noncompact_tube(E, lambda_t, Fy, S):
    """Nominal strength, noncompact tube."""
    return (0.021 * E / lambda_t + Fy) * S


@formula("F8-3", "Mn")
def slender_tube(E, lambda_t, S):
    """Nominal strength, slender tube."""
    return 0.33 * E / lambda_t * S
