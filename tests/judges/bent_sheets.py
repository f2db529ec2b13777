"""Bent sheets as meshes, drawn by hand from their profile, and how long they are flat."""

import math

import numpy as np
import shapely
import trimesh


def k_of(ratio):
    """DIN 6935 (from memory): k = 0.65 + lg(r/s)/2, and half of it of the thickness."""
    return (0.65 + math.log10(ratio) / 2) / 2


def profile(legs, angles, thick, radius, step):
    """The profile of a sheet whose flat ``legs`` (mm) are turned by ``angles`` (degrees), its rounds in chords."""
    at, way = 0j, 1 + 0j
    one, other = [at], [at + way * 1j * thick]
    for leg, angle in zip(legs, [*angles, 0], strict=True):
        at += way * leg
        centre = at + way * 1j * (thick + radius) if angle > 0 else at - way * 1j * radius
        for turned in np.linspace(0, angle, max(1, round(abs(angle) / step)) + 1)[0 if angle else 1 :]:
            turn = np.exp(1j * math.radians(turned))
            here = centre + (at - centre) * turn
            one.append(here)
            other.append(here + way * turn * 1j * thick)
        at, way = one[-1], way * np.exp(1j * math.radians(angle))
    return shapely.Polygon([(p.real, p.imag) for p in [*one, *other[::-1]]])


def bent_sheet(legs, angles, thick=2.0, radius=3.0, step=6, wide=80.0, turn=(0.7, (1, 2, 0.3))):
    mesh = trimesh.creation.extrude_polygon(profile(legs, angles, thick, radius, step), wide)
    return mesh.apply_transform(trimesh.transformations.rotation_matrix(turn[0], turn[1]))


def flat_length(legs, angles, thick=2.0, radius=3.0):
    """How long (mm) the sheet is flat: its legs, and the neutral line of each round."""
    neutral = radius + k_of(radius / thick) * thick
    return sum(legs) + sum(math.radians(abs(angle)) * neutral for angle in angles)
