"""Solids in bay coordinates, mm, by a solid kernel: bodies of parts, corridors through walls, and files of them."""

from collections.abc import Iterable, Mapping, Sequence
from typing import TYPE_CHECKING, Any

from pocketspark.core.fit.answer import FitAnswer, Placement
from pocketspark.core.fit.openings import Opening

if TYPE_CHECKING:
    from manifold3d import Manifold

_ROUND = 128
# Cuts go a little past the face they cut, so that no skin is left.
PAST_MM = 1.0
# Nothing is printed outside a wall as far as this: the plug comes from there.
_BEYOND_MM = 30.0
_AXES = {"left": (0, -1), "right": (0, 1), "front": (1, -1), "back": (1, 1), "floor": (2, -1), "lid": (2, 1)}


def box(low: Sequence[float], high: Sequence[float]) -> "Manifold":
    """By two corners; nothing where the second is not beyond the first."""
    from manifold3d import Manifold

    size = [max(b - a, 0.0) for a, b in zip(low, high, strict=True)]
    return Manifold.cube(size).translate(list(low))


def cylinder(diameter: float, start: float, end: float, y: float, z: float) -> "Manifold":
    """Along x, from `start` to `end`, about an axis at y, z."""
    from manifold3d import Manifold

    upright = Manifold.cylinder(max(end - start, 0.0), diameter / 2, diameter / 2, _ROUND)
    return upright.rotate((0, 90, 0)).translate((start, y, z))


def round_cornered(middles: Sequence[tuple[float, float]], radius: float, low: float, high: float) -> "Manifold":
    """Upright, from `low` to `high`: all between rods of this radius about the middles of its corners."""
    from manifold3d import Manifold

    rod = Manifold.cylinder(max(high - low, 0.0), radius, radius, _ROUND)
    return union(rod.translate((x, y, low)) for x, y in middles).hull()


def ring(outer: float, inner: float, start: float, end: float, y: float, z: float) -> "Manifold":
    """A pipe along x."""
    return cylinder(outer, start, end, y, z) - cylinder(inner, start - PAST_MM, end + PAST_MM, y, z)


def union(solids: Iterable["Manifold"]) -> "Manifold":
    from manifold3d import Manifold

    total = Manifold()
    for solid in solids:
        total += solid
    return total


def body(placed: Placement, air_mm: float = 0.0, to_x: float | None = None) -> "Manifold":
    """A part as it lies, with air all round; `to_x`: stretched so far along a tube, the way that it is put in.

    Without its socket's nose: in front of that is its corridor.
    """
    low = [at - air_mm for at in placed.min_mm]
    high = [at + air_mm for at in placed.max_mm]
    if placed.face_side and placed.nose_mm:
        axis, way = _AXES[placed.face_side]
        low[axis] += placed.nose_mm if way < 0 else 0.0
        high[axis] -= placed.nose_mm if way > 0 else 0.0
    if to_x is not None:
        high[0] = max(high[0], to_x)
    size = [b - a for a, b in zip(placed.min_mm, placed.max_mm, strict=True)]
    if placed.round and abs(size[1] - size[2]) < 1e-6 < abs(size[0] - size[1]):
        middle = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
        return cylinder(size[1] + 2 * air_mm, low[0], high[0], middle[1], middle[2])
    return box(low, high)


def corridors(answer: FitAnswer, room_mm: float = 0.0) -> "Manifold":
    """What has to stay free in front of every opening: from the part that shows there to well outside the wall."""
    return union(_corridor(opening, answer, room_mm) for opening in answer.openings)


def _corridor(opening: Opening, answer: FitAnswer, room_mm: float) -> "Manifold":
    axis, way = _AXES[opening.side]
    shown = next((one for one in answer.placements if one.part == opening.part), None)
    wall = 0.0 if way < 0 else answer.size_mm[axis]
    # Behind a nose the board itself begins.
    face = wall if shown is None else (shown.min_mm if way < 0 else shown.max_mm)[axis] - way * shown.nose_mm
    inner, outer = (wall if abs(face - wall) > _BEYOND_MM else face), wall + way * _BEYOND_MM
    low, high = [at - room_mm for at in opening.min_mm], [at + room_mm for at in opening.max_mm]
    low[axis], high[axis] = min(inner, outer), max(inner, outer)
    return box(low, high)


def only_the_largest(solid: "Manifold") -> "Manifold":
    """Crumbs that a cut has left are not printed. A piece comes without the cavities in it: they are cut anew."""
    return solid ^ max(solid.decompose(), key=lambda piece: piece.volume(), default=solid)


# Files ---------------------------------------------------------------------------------------------------------

FILE_TYPES: Mapping[str, str] = {"stl": "model/stl", "3mf": "model/3mf"}


def to_file(solid: "Manifold", kind: str) -> bytes:
    """STL (binary) or 3MF, in mm."""
    import numpy as np
    import trimesh

    mesh = solid.to_mesh()
    made = trimesh.Trimesh(np.asarray(mesh.vert_properties)[:, :3], np.asarray(mesh.tri_verts), process=True)
    exported: Any = made.export(file_type=kind)
    return bytes(exported)


def to_svg(solid: "Manifold") -> str:
    """A preview: outline from above and from the front, in mm."""
    views = [("from above", solid), ("from the front", solid.rotate((-90, 0, 0)))]
    parts, x = [], 2.0
    height = 0.0
    for _, turned in views:
        x0, y0, _z0, x1, y1, _z1 = turned.bounding_box()
        outline = turned.project().simplify(0.01).to_polygons()
        path = "".join(
            "M" + "L".join(f"{px - x0 + x:.2f} {y1 - py + 2:.2f}" for px, py in loop) + "Z" for loop in outline
        )
        parts.append(f'<path d="{path}"/>')
        x += x1 - x0 + 6
        height = max(height, y1 - y0)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {x:.1f} {height + 4:.1f}" fill="#f3e0d0" '
        f'fill-rule="evenodd" stroke="#9c4a1a" stroke-width="0.4">{"".join(parts)}</svg>'
    )
