"""The hook-up drawing as SVG, in mm: colours by net, with a dash pattern for those who do not see the colours."""

from collections.abc import Mapping
from xml.sax.saxutils import escape

from pocketspark.core.wiring.drawing import Drawing, Role, middle_of

# Colour and dash of each kind of net; the screen uses the same table by way of its own theme.
LOOKS: Mapping[Role, tuple[str, str]] = {
    "five": ("#d9822b", "4 1.2"),
    "cell_plus": ("#b3261e", ""),
    "cell_minus": ("#1f2a33", ""),
    "out_plus": ("#9c4a1a", "2.5 1"),
    "ground": ("#4d5a64", "1 1"),
    "gadget_plus": ("#b58a00", "6 1 1 1"),
    "other": ("#2a5578", "1 2"),
}


def to_svg(drawing: Drawing, title: str) -> str:
    """Real millimetres."""
    size = f'width="{drawing.width:.1f}mm" height="{drawing.height:.1f}mm"'
    lines = [
        f'<svg xmlns="http://www.w3.org/2000/svg" {size} viewBox="0 0 {drawing.width:.1f} {drawing.height:.1f}" '
        'font-family="sans-serif" font-size="2.6">',
        f"<title>{escape(title)}</title>",
    ]
    for part in drawing.parts:
        lines.append(
            f'<rect x="{part.x:.1f}" y="{part.y:.1f}" width="{part.width:.1f}" height="{part.height:.1f}" rx="1" '
            'fill="#fdfaf3" stroke="#1f2a33" stroke-width="0.3"/>'
        )
        lines.append(_text(part.x + part.width / 2, part.y + part.height / 2 + 1, part.key, "middle"))
    for wire in drawing.wires:
        colour, dash = LOOKS[drawing.nets[wire.net].role]
        points = " ".join(f"{x:.1f},{y:.1f}" for x, y in zip(wire.xs, wire.ys, strict=True))
        width = 0.3 if wire.present else 0.7
        look = f'stroke="{colour}" stroke-width="{width}" stroke-dasharray="{dash}"'
        lines.append(f'<polyline points="{points}" fill="none" {look}/>')
        x, y = middle_of(wire)
        lines.append(_text(x, y - 0.8, wire.letter, "middle"))
    for part in drawing.parts:
        for pad in part.pads:
            lines.append(f'<circle cx="{pad.x:.1f}" cy="{pad.y:.1f}" r="1" fill="#1f2a33"/>')
            lines.append(_text(pad.x, pad.y + (4 if pad.upper else -2), pad.label, "middle"))
    return "\n".join([*lines, "</svg>", ""])


def _text(x: float, y: float, text: str, anchor: str) -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" text-anchor="{anchor}" fill="#1f2a33">{escape(text)}</text>'
