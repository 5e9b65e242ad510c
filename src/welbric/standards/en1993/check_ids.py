"""What machines call the checks: an id stays when its title is worded anew."""

from __future__ import annotations

CHECK_IDS = {
    "tension": "tension-yielding",
    "tension, net section": "tension-rupture",
    "compression": "compression-yielding",
    "flexural buckling, y axis": "buckling-major",
    "flexural buckling, z axis": "buckling-minor",
    "torsional buckling": "buckling-torsional",
    "bending, y axis": "bending-major",
    "bending, z axis": "bending-minor",
    "lateral-torsional buckling": "bending-lateral",
    "shear, z direction": "shear-major",
    "shear, y direction": "shear-minor",
    "shear buckling": "shear-buckling",
    "forces together, cross-section": "section-forces",
    "buckling, bending and compression": "compression-bending",
    "torsion": "torsion",
    "concentrated force": "web-force",
    "concentrated force beside bending": "web-force-bending",
}
