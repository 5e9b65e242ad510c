"""F6: I-shapes and channels about the minor axis."""

from __future__ import annotations

from numpy import minimum

from welbric.standards.aisc360.clauses.b4 import flange_is_compact, flange_is_noncompact
from welbric.standards.aisc360.clauses.f2_f3 import no_flange_buckling
from welbric.standards.aisc360.symbols import formula
from welbric.working import first_of


@formula("F6-1", "Mp")
def plastic_moment_minor(Fy, Zy, Sy):
    """Plastic moment about the minor axis."""
    return minimum(Fy * Zy, 1.6 * Fy * Sy)


@formula("F6-2", "Mn")
def noncompact_flange_minor(Mp, Fy, Sy, lambda_f, lambda_pf, lambda_rf):
    """Nominal flexural strength about the minor axis, noncompact flange."""
    return Mp - (Mp - 0.7 * Fy * Sy) * ((lambda_f - lambda_pf) / (lambda_rf - lambda_pf))


@formula("F6-4", "Fcr")
def critical_stress_minor(E, lambda_f):
    """Critical stress of a slender flange, bending about the minor axis."""
    return 0.69 * E / lambda_f**2


@formula("F6-3", "Mn")
def slender_flange_strength_minor(Fcr, Sy):
    """Nominal flexural strength about the minor axis, slender flange."""
    return Fcr * Sy


def slender_flange_minor(E, lambda_f, Sy):
    """Return Mn by F6-3."""
    return slender_flange_strength_minor(critical_stress_minor(E, lambda_f), Sy)


def flange_local_buckling_minor(Mp, Fy, E, Sy, lambda_f, lambda_pf, lambda_rf):
    """Return Mn in flange local buckling about the minor axis (F6.2)."""
    return first_of(
        (flange_is_compact, no_flange_buckling),
        (flange_is_noncompact, noncompact_flange_minor),
        otherwise=slender_flange_minor,
        Mp=Mp,
        Fy=Fy,
        E=E,
        Sy=Sy,
        lambda_f=lambda_f,
        lambda_pf=lambda_pf,
        lambda_rf=lambda_rf,
    )
