"""B3: required against available strength."""

from __future__ import annotations

from welbric.standards.aisc360.symbols import formula


@formula("B3", "U")
def force_utilisation(Rr, Rc):
    """Required over available strength."""
    return Rr / Rc


@formula("B3", "U")
def utilisation(Pr, Pc):
    """Required over available strength at the pin."""
    return Pr / Pc


@formula("B3", "U")
def axial_utilisation(Pr, Pc):
    """Required over available axial strength."""
    return Pr / Pc


@formula("B3", "U")
def flexural_utilisation(Mr, Mc):
    """Required over available flexural strength."""
    return Mr / Mc


@formula("B3", "U")
def shear_utilisation(Vr, Vc):
    """Required over available shear strength."""
    return Vr / Vc


@formula("B3", "U")
def torsional_utilisation(Tr, Tc):
    """Required over available torsional strength."""
    return Tr / Tc
