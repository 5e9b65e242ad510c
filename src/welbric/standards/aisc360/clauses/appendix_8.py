"""Appendix 8: approximate second-order analysis."""

from __future__ import annotations

from numpy import inf, maximum, pi

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either

ALPHA = {"LRFD": 1.0, "ASD": 1.6}


STIFFNESS_SHARE = 0.8


@formula("A-8-4", "Cm")
def end_moment_factor(beta_M):
    """Equivalent uniform moment factor, no transverse load between the ends."""
    return 0.6 - 0.4 * beta_M


@formula("A-8-5", "Pe1")
def elastic_critical_load(E, I, Lc1):
    """Elastic critical load in the plane of bending."""
    return pi**2 * E * I / Lc1**2


@condition("A-8-3")
def is_stable(alpha, Pr, Pe1):
    """The axial force is below the elastic critical load."""
    return alpha * Pr < Pe1


@formula("A-8-3", "B1")
def multiplier(Cm, alpha, Pr, Pe1):
    """Multiplier for second-order effects between the ends."""
    return maximum(Cm / (1 - alpha * Pr / Pe1), 1.0)


@formula("A-8-6", "B2")
def sway_multiplier(alpha, Pr, Pe1):
    """Multiplier for sidesway of one end against the other, of a member standing alone."""
    return maximum(1 / (1 - alpha * Pr / Pe1), 1.0)


@formula("A-8-3", "Mr")
def unstable():
    """No second-order moment: the axial force exceeds the elastic critical load."""
    return inf


@formula("A-8-8", "R_M")
def moment_frames_factor(P_mf, P_story):
    """Factor for the share of the storey's load in moment frames."""
    return 1 - 0.15 * (P_mf / P_story)


@formula("A-8-7", "Pe_story")
def storey_critical_load(R_M, H_s, L_s, drift):
    """Elastic critical load of the storey against sidesway."""
    return R_M * H_s * L_s / drift


@formula("A-8-6", "B2")
def multiplier_of_storey(alpha, P_story, Pe_story):
    """Multiplier for second-order effects of the storey's sidesway."""
    return maximum(1 / (1 - alpha * P_story / Pe_story), 1.0)


def storey_multiplier(method, P_story, shear, drift, height, in_moment_frames):
    """Return B2 of a storey; infinite beyond its critical load."""
    R_M = moment_frames_factor(in_moment_frames, P_story)
    Pe_story = storey_critical_load(R_M, shear, height, drift)
    if ALPHA[method] * P_story >= Pe_story:
        return inf
    return multiplier_of_storey(ALPHA[method], P_story, Pe_story)


@formula("A-8-1", "Mr")
def amplified_moment(B1, Mnt):
    """Second-order moment, ends held in position."""
    return B1 * Mnt


@formula("A-8-1", "Mr")
def amplified_sway_moment(B2, Mlt):
    """Second-order moment, one end free to sway."""
    return B2 * Mlt


def amplified(Cm, alpha, Pr, Pe1, Mnt):
    """Return Mr = B1 Mnt."""
    return amplified_moment(multiplier(Cm, alpha, Pr, Pe1), Mnt)


def amplified_by_sway(alpha, Pr, Pe1, Mlt):
    """Return Mr = B2 Mlt."""
    return amplified_sway_moment(sway_multiplier(alpha, Pr, Pe1), Mlt)


def second_order_moment(E, I, Lc1, Pr, M, alpha, Cm):
    """Return the second-order moment of a member whose ends hold their position."""
    Pe1 = elastic_critical_load(E, I, Lc1)
    return either(is_stable, amplified, unstable, Cm=Cm, alpha=alpha, Pr=Pr, Pe1=Pe1, Mnt=M)


def second_order_sway_moment(E, I, Lc1, Pr, M, alpha):
    """Return the second-order moment of a member with one end free to sway."""
    Pe1 = elastic_critical_load(E, I, Lc1)
    return either(is_stable, amplified_by_sway, unstable, alpha=alpha, Pr=Pr, Pe1=Pe1, Mlt=M)
