"""The template as SVG and DXF: named layers, true millimetres, side B beside side A."""

from __future__ import annotations

import io
from collections.abc import Sequence
from xml.sax.saxutils import escape, quoteattr

from lumvak.core.making.template import Shape, SideDrawing
from lumvak.files.export.warning import WARNING

BETWEEN_MM = 30.0
MARGIN_MM = 10.0
TEXT_MM = 3.0
COLOURS = {
    "CELLS": "#5A676F", "TERMINALS": "#22303A", "LABELS": "#22303A", "STRIPS": "#9E4825",
    "WIRES": "#256D64", "LEADS": "#A3262C", "NUMBERS": "#9E4825", "WELDS": "#22303A",
    "HOLES": "#22303A",
}  # fmt: skip


def shifts(sides: Sequence[SideDrawing]) -> list[float]:
    """Where each side begins along x, in mm."""
    found, at = [], 0.0
    for side in sides:
        found.append(at)
        at += side.width_mm + BETWEEN_MM
    return found


def _layers(side: SideDrawing) -> dict[str, list[Shape]]:
    layers: dict[str, list[Shape]] = {}
    for shape in side.shapes:
        layers.setdefault(shape.layer, []).append(shape)
    return layers


def _colour(layer: str) -> str:
    return COLOURS[layer.split("_")[1]]


def svg_text(sides: Sequence[SideDrawing], title: str, warning: str = "") -> str:
    """The template as SVG; one unit is one millimetre, each layer a group with its name.

    A ``warning`` stands over every side.
    """
    starts = shifts(sides)
    width = starts[-1] + sides[-1].width_mm + 2.0 * MARGIN_MM
    height = max(side.height_mm for side in sides) + 2.0 * MARGIN_MM + 8.0
    out = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.3f}mm" height="{height:.3f}mm" '
        f'viewBox="0 0 {width:.3f} {height:.3f}">',
        f"<title>{escape(title)}</title>",
    ]
    for side, start in zip(sides, starts, strict=True):
        move = f"translate({start + MARGIN_MM:.3f} {MARGIN_MM + 8.0:.3f})"
        out.append(f'<g id={quoteattr("SIDE_" + side.name)} transform="{move}">')
        if warning:
            out.append(
                f'<text x="0" y="-9.5" font-size="{TEXT_MM + 1}" font-family="sans-serif" '
                f'fill="{WARNING}">{escape(warning)}</text>'
            )
        out.append(
            f'<text x="0" y="-4" font-size="{TEXT_MM + 1}" font-family="sans-serif">'
            f"{escape(side.words)}</text>"
        )
        for layer, shapes in _layers(side).items():
            colour = _colour(layer)
            out.append(
                f'<g id={quoteattr(layer)} fill="none" stroke="{colour}" stroke-width="0.2">'
            )
            out.extend(_svg_shape(shape, colour) for shape in shapes)
            out.append("</g>")
        out.append("</g>")
    out.append("</svg>")
    return "\n".join(out) + "\n"


def _svg_shape(shape: Shape, colour: str) -> str:
    x, y = shape.points[0]
    if shape.text:
        # Numbers in the middle; poles aside, for the marks of the welds lie across and along.
        number = "NUMBERS" in shape.layer
        across, down = (0.0, 0.35) if number else (0.5, 1.2)
        anchor = "middle" if number else "start"
        return (
            f'<text x="{x + TEXT_MM * across:.3f}" y="{y + TEXT_MM * down:.3f}" '
            f'font-size="{TEXT_MM}" fill="{colour}" '
            f'stroke="none" text-anchor="{anchor}" font-family="sans-serif">'
            f"{escape(shape.text)}</text>"
        )
    if shape.diameter_mm:
        return f'<circle cx="{x:.3f}" cy="{y:.3f}" r="{shape.diameter_mm / 2.0:.3f}"/>'
    points = " ".join(f"{px:.3f},{py:.3f}" for px, py in shape.points)
    kind = "polygon" if shape.closed else "polyline"
    return f'<{kind} points="{points}"/>'


def dxf_text(sides: Sequence[SideDrawing], warning: str = "") -> str:
    """The template as DXF in millimetres, y upwards as DXF counts.

    A ``warning`` stands over every side, on a layer of its own.
    """
    import ezdxf
    from ezdxf import units
    from ezdxf.enums import TextEntityAlignment

    document = ezdxf.new("R2010", setup=False)  # type: ignore[attr-defined]
    document.units = units.MM
    model = document.modelspace()
    if warning:
        document.layers.add("WARNING", color=1)
    for side, start in zip(sides, shifts(sides), strict=True):
        if warning:
            told = model.add_text(warning, height=TEXT_MM + 1, dxfattribs={"layer": "WARNING"})
            told.set_placement((start, 6.0))
        for layer, shapes in _layers(side).items():
            red, green, blue = (int(_colour(layer)[at : at + 2], 16) for at in (1, 3, 5))
            document.layers.add(layer, true_color=ezdxf.colors.rgb2int((red, green, blue)))
            for shape in shapes:
                points = [(x + start, -y) for x, y in shape.points]
                with_layer = {"layer": layer}
                if shape.text:
                    text = model.add_text(shape.text, height=TEXT_MM, dxfattribs=with_layer)
                    at = (points[0][0], points[0][1] - TEXT_MM)
                    text.set_placement(at, align=TextEntityAlignment.TOP_CENTER)
                elif shape.diameter_mm:
                    model.add_circle(points[0], shape.diameter_mm / 2.0, dxfattribs=with_layer)
                else:
                    model.add_lwpolyline(points, close=shape.closed, dxfattribs=with_layer)
    out = io.StringIO()
    document.write(out)
    return out.getvalue()
