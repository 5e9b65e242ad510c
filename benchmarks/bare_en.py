"""The equations of a rolled I-shape to EN 1993-1-1, Annex B, as one flat NumPy kernel."""

from __future__ import annotations

import numpy as np

E, G = 210_000.0, 81_000.0
sqrt, where, minimum, maximum, pi = np.sqrt, np.where, np.minimum, np.maximum, np.pi


def class_of(ratio, limits):
    """Return the class of a part by its three limits."""
    first, second, third = (limit * (1 + 1e-9) for limit in limits)
    return where(ratio <= first, 1.0, where(ratio <= second, 2.0, where(ratio <= third, 3.0, 4.0)))


def web_class(N, s, c, fy, eps):
    """Return the class of a web in bending beside compression."""
    alpha = maximum(minimum(0.5 * (1 + N / (c * s.tw * fy)), 1), 0.001)
    psi = minimum(2 * N / (s.A * fy) - 1, 1)
    more = alpha > 0.5
    low = minimum(psi, -1.0)
    limits = (
        where(more, 396 * eps / (13 * alpha - 1), 36 * eps / alpha),
        where(more, 456 * eps / (13 * alpha - 1), 41.5 * eps / alpha),
        where(psi > -1, 42 * eps / (0.67 + 0.33 * psi), 62 * eps * (1 - low) * sqrt(-low)),
    )
    return class_of(c / s.tw, limits)


def reduction(alpha, slender):
    """Return the reduction factor of a buckling curve."""
    phi = 0.5 * (1 + alpha * (slender - 0.2) + slender**2)
    chi = minimum(1 / (phi + sqrt(maximum(phi**2 - slender**2, 0))), 1)
    return where(slender <= 0.2, 1.0, chi)


def curve(s, slim, thin, usual):
    """Return the imperfection factor of a rolled I below S460."""
    first, second = usual
    return where(slim, where(thin <= 40, first, where(thin <= 100, second, np.nan)),
                 where(thin <= 100, second, 0.76))  # fmt: skip


def uniform_factor(start, middle, end, most):
    """Return the equivalent uniform moment factor of Table B.3."""
    larger = np.abs(start) >= np.abs(end)
    M_h, other = where(larger, start, end), where(larger, end, start)
    psi = where(M_h != 0, other / where(M_h != 0, M_h, 1.0), 1.0)
    straight = np.abs(middle - 0.5 * (start + end)) <= 1e-6 * maximum(most, 1e-300)
    strange = most > 1.1 * maximum(np.abs(M_h), np.abs(middle)) * (1 + 1e-9)
    M_h, M_s = where(np.abs(M_h) > 0, M_h, 1e-30), where(np.abs(middle) > 0, middle, 1e-30)
    by_end, by_middle = M_s / M_h, M_h / M_s
    found = where(
        np.abs(M_h) >= np.abs(middle),
        where(by_end >= 0, maximum(0.2 + 0.8 * by_end, 0.4),
              maximum(0.1 * (1 - minimum(psi, 0)) - 0.8 * by_end, 0.4)),
        where(maximum(by_middle, psi) < 0, 0.95 + 0.05 * by_middle * (1 + 2 * psi),
              0.95 + 0.05 * by_middle),
    )  # fmt: skip
    found = where(straight, maximum(0.6 + 0.4 * psi, 0.4), found)
    return where(strange | (most <= 0), 1.0, found)


def all_checks(s, d, fy, fu, L, L_y, L_z, A_net, lag):
    """Return the utilisations of eleven limit states, each (section, combination, segment)."""
    eps = sqrt(235 / fy)
    c, h_w = s.d - 2 * s.tf - 2 * s.r, s.d - 2 * s.tf
    c_f = s.bf / 2 - s.tw / 2 - s.r
    flange = class_of(c_f / s.tf, (9 * eps, 10 * eps, 14 * eps))
    pressed = maximum(flange, class_of(c / s.tw, (33 * eps, 38 * eps, 42 * eps)))
    alone = maximum(flange, web_class(0.0, s, c, fy, eps))
    tips = class_of(c_f / s.tf, (9 * eps, 10 * eps, 21 * eps * sqrt(0.57 - 0.21 * (
        (s.tw / 2 + s.r) / (s.bf / 2)) + 0.07 * ((s.tw / 2 + s.r) / (s.bf / 2)) ** 2)))  # fmt: skip
    rho = {}
    for name, width, t, k in (("web", c, s.tw, 4.0), ("flange", c_f, s.tf, 0.43)):
        slender = maximum(width / t / (28.4 * eps * sqrt(k)), 0.5)
        rho[name] = minimum((slender - (0.22 if name == "web" else 0.188)) / slender**2, 1)
    lost = (1 - rho["web"]) * c * s.tw + 4 * maximum(1 - rho["flange"], 0.0) * c_f * s.tf
    area = where(pressed == 4, s.A - lost, s.A)
    N_Rk = area * fy
    found = [d.tension / (s.A * fy), d.tension / (0.9 * (A_net * lag) * fu / 1.25)]
    found.append(d.compression / N_Rk)
    slim = s.d / s.bf > 1.2
    N_y, N_z = pi**2 * E * s.I_major / L_y**2, pi**2 * E * s.I_minor / L_z**2
    N_T = (G * s.J + pi**2 * E * s.Cw / L_z**2) / s.r_polar**2
    alpha_z = curve(s, slim, s.tf, (0.34, 0.49))
    lambda_y, lambda_z = sqrt(area * fy / N_y), sqrt(area * fy / N_z)
    chi_y = reduction(curve(s, slim, s.tf, (0.21, 0.34)), lambda_y)
    chi_z = reduction(alpha_z, lambda_z)
    chi_T = reduction(alpha_z, sqrt(area * fy / N_T))
    found += [d.compression / (chi * N_Rk) for chi in (chi_y, chi_z, chi_T)]
    # Bending; webs that bending alone puts into class 4 are none of this catalogue.
    W_y = where(alone <= 2, s.Wpl_major, s.Wel_major)
    W_z = where(tips <= 2, s.Wpl_minor, s.Wel_minor)
    found += [d.M_max / (W_y * fy), d.M_minor / (W_z * fy)]
    M2, M3, M4 = d.M_2**2, d.M_3**2, d.M_4**2
    C_1 = sqrt(35 * d.M_max**2 / (d.M_max**2 + 9 * M2 + 16 * M3 + 9 * M4))
    C_1 = where(d.M_major < d.M_max * (1 - 1e-9), 1.0, C_1)
    M_cr = (
        C_1
        * (pi**2 * E * s.I_minor / L**2)
        * sqrt(s.Cw / s.I_minor + L**2 * G * s.J / (pi**2 * E * s.I_minor))
    )
    alpha_LT = where(s.d / s.bf > 2 * (1 + 1e-9), 0.34, 0.21)

    def lateral(W):
        slender = sqrt(W * fy / M_cr)
        phi = 0.5 * (1 + alpha_LT * (slender - 0.2) + slender**2)
        chi = 1 / (phi + sqrt(maximum(phi**2 - slender**2, 0)))
        return where(slender <= 0.2, 1.0, minimum(minimum(chi, 1), 1 / slender**2))

    found.append(d.M_major / (lateral(W_y) * W_y * fy))
    A_v = maximum(s.A - 2 * s.bf * s.tf + (s.tw + 2 * s.r) * s.tf, h_w * s.tw)
    found += [d.V_major / (A_v * fy / sqrt(3)), d.V_minor / (2 * s.bf * s.tf * fy / sqrt(3))]
    # Together, by Annex B.
    N = d.compression
    kind = maximum(flange, web_class(N, s, c, fy, eps))
    kind = maximum(where(d.M_major > 0, kind, 1.0), where(d.M_minor > 0, maximum(
        where(N > 0, pressed, tips), 1.0), 1.0))  # fmt: skip
    plastic = kind <= 2
    W_y = where(plastic, s.Wpl_major, s.Wel_major)
    W_z = where(plastic, s.Wpl_minor, s.Wel_minor)
    chi_LT = lateral(W_y)
    chi_z = minimum(chi_z, chi_T)
    n_y, n_z = N / (chi_y * N_Rk), N / (chi_z * N_Rk)
    C_my = uniform_factor(d.y_start, d.y_middle, d.y_end, d.y_max)
    C_mz = uniform_factor(d.z_start, d.z_middle, d.z_end, d.z_max)
    C_mLT = uniform_factor(d.s_start, d.s_middle, d.s_end, d.M_max)
    k_yy = where(
        plastic,
        minimum(C_my * (1 + (lambda_y - 0.2) * n_y), C_my * (1 + 0.8 * n_y)),
        minimum(C_my * (1 + 0.6 * lambda_y * n_y), C_my * (1 + 0.6 * n_y)),
    )
    k_zz = where(
        plastic,
        minimum(C_mz * (1 + (2 * lambda_z - 0.6) * n_z), C_mz * (1 + 1.4 * n_z)),
        minimum(C_mz * (1 + 0.6 * lambda_z * n_z), C_mz * (1 + 0.6 * n_z)),
    )
    less = n_z / (C_mLT - 0.25)
    k_zy = where(
        plastic,
        where(lambda_z < 0.4, minimum(0.6 + lambda_z, 1 - 0.1 * lambda_z * less),
              maximum(1 - 0.1 * lambda_z * less, 1 - 0.1 * less)),
        maximum(1 - 0.05 * lambda_z * less, 1 - 0.05 * less),
    )  # fmt: skip
    m_y, m_z = d.M_major / (chi_LT * (W_y * fy)), d.M_minor / (W_z * fy)
    U = maximum(n_y + k_yy * m_y + where(plastic, 0.6, 1.0) * k_zz * m_z,
                n_z + k_zy * m_y + k_zz * m_z)  # fmt: skip
    bends = (d.M_major > 0) | (d.M_minor > 0)
    together = ((N > 0) & bends) | ((d.M_major > 0) & (d.M_minor > 0))
    return [*found, where(together, U, 0.0)]
