"""What machines call the checks: an id stays when its title is worded anew."""

from __future__ import annotations

CHECK_IDS = {
    "tension": "tension-yielding",
    "tension, net section": "tension-rupture",
    "compression": "compression-yielding",
    "flexural buckling, y axis": "buckling-major",
    "flexural buckling, z axis": "buckling-minor",
    "flexural buckling, u axis": "buckling-major",
    "flexural buckling, v axis": "buckling-minor",
    "buckling, loaded through one leg": "buckling-one-leg",
    "torsional buckling": "buckling-torsional",
    "torsional-flexural buckling": "buckling-flexural-torsional",
    "bending, y axis": "bending-major",
    "bending, z axis": "bending-minor",
    "lateral-torsional buckling": "bending-lateral",
    "shear, z direction": "shear-major",
    "shear, y direction": "shear-minor",
    "shear": "shear-major",
    "shear buckling": "shear-buckling",
    "shear buckling, y direction": "shear-buckling-minor",
    "flange-induced buckling": "web-flange",
    "normal stress": "section-stress",
    "forces together, cross-section": "section-forces",
    "buckling, bending and compression": "compression-bending",
    "torsion": "torsion",
    "chords": "built-up-chords",
    "lacing": "built-up-lacing",
    "battens": "built-up-battens",
    "concentrated force": "web-force",
    "concentrated force beside bending": "web-force-bending",
}
