"""Chapter B: local buckling classification (B4) and the safety format (B3)."""

from __future__ import annotations

from numpy import sqrt

from welbric.standards.aisc360.symbols import condition, formula


@formula("B4.1", "h")
def clear_web_depth(d, tf, r_f):
    """Clear depth between the flanges less the fillets."""
    return d - 2 * (tf + r_f)


@formula("B4.1", "lambda_w")
def web_slenderness(h, tw):
    """Width-to-thickness ratio of the web."""
    return h / tw


@formula("B4.1", "lambda_f")
def flange_slenderness(bf, tf):
    """Width-to-thickness ratio of the flange outstand."""
    return bf / (2 * tf)


@formula("Table B4.1a(1)", "lambda_rc")
def flange_limit_compression(E, Fy):
    """Slender flange limit of rolled I-shapes in axial compression."""
    return 0.56 * sqrt(E / Fy)


@formula("Table B4.1a(5)", "lambda_rw")
def web_limit_compression(E, Fy):
    """Slender web limit of doubly symmetric I-shapes in axial compression."""
    return 1.49 * sqrt(E / Fy)


@formula("Table B4.1b(10)", "lambda_pf")
def compact_flange_limit(E, Fy):
    """Compact flange limit of rolled I-shapes in flexure, about either axis (cases 10 and 13)."""
    return 0.38 * sqrt(E / Fy)


@formula("Table B4.1b(10)", "lambda_rf")
def noncompact_flange_limit(E, Fy):
    """Noncompact flange limit of rolled I-shapes in flexure, about either axis."""
    return 1.0 * sqrt(E / Fy)


@formula("Table B4.1b(15)", "lambda_pw")
def compact_web_limit(E, Fy):
    """Compact web limit of doubly symmetric I-shapes in flexure."""
    return 3.76 * sqrt(E / Fy)


@condition("Table B4.1b(15)")
def web_is_compact(lambda_w, lambda_pw):
    """The web is compact in flexure."""
    return lambda_w <= lambda_pw


@condition("Table B4.1b(10)")
def flange_is_compact(lambda_f, lambda_pf):
    """The flange is compact in flexure."""
    return lambda_f <= lambda_pf


@condition("Table B4.1b(10)")
def flange_is_noncompact(lambda_f, lambda_rf):
    """The flange is not slender in flexure."""
    return lambda_f <= lambda_rf
