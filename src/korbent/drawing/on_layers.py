"""A load on a stack of layers: to scale in depth, each layer with what it settles, the water, and the load above."""

from korbent.core.model.labels import label
from korbent.core.quick.ground_load import GroundLoad, Settled
from korbent.core.units import UnitSet, length_text, show, show_length, shown_unit
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say


def on_layers(load: GroundLoad, found: Settled | None, units: UnitSet, aspect: float) -> Drawing:
    """The drawing; ``found``: None while it is being computed."""
    deep = load.depth or 1.0
    wide = deep * max(aspect, 0.6) * 0.9
    sketch = Sketch()
    small = shown_unit("mm", units)
    z = 0.0
    for k, layer in enumerate(load.layers):
        pattern = "clay" if layer.consolidation else "sand"
        sketch.add(Polygon(rectangle(0, z - layer.thickness, wide, z), pattern, "ink", 1.0, pattern=pattern))
        middle = z - layer.thickness / 2
        sketch.add(
            Text(
                (0.02 * wide, middle),
                f"{k + 1}: {length_text(layer.thickness, units)}",
                11,
                "ink",
                dy=4,
                halo=True,
            )
        )
        if found is not None and k < len(found.by_layer):
            part = say("settles {by_layer} {small}", by_layer=show(1000 * found.by_layer[k], "mm", units), small=small)
            sketch.add(Text((0.98 * wide, middle), part, 11, "accent", "right", bold=True, dy=4, halo=True))
        z -= layer.thickness
        sketch.add(Text((0, z), f"−{show_length(-z, units)}", 10, "soft", "right", dx=-5, dy=4, fixed=True))
    water = min(load.water, deep)
    sketch.add(
        Line(((0, -water), (wide, -water)), "water", 1.3, dash=True),
        Text((0.3 * wide, -water), say("water"), 10, "water", "middle", dy=-3, halo=True),
    )
    level, half = -load.founded, min(load.size_x / 2, 0.3 * wide)
    x = wide / 2
    if load.kind == "embankment":
        foot = half + min(2 * load.height, 0.18 * wide)
        top = level + 0.18 * deep
        sketch.add(
            Polygon(((x - foot, level), (x - half, top), (x + half, top), (x + foot, level)), "fill", "ink", 1.4)
        )
        said = say("{length} of fill", length=length_text(load.height, units))
    else:
        top = level + 0.05 * deep
        sketch.add(Polygon(rectangle(x - half, level, x + half, top), "concrete", "concrete_line", 1.4))
        for i in range(7):
            at = x - half + i * half / 3
            sketch.add(Line(((at, top + 0.12 * deep), (at, top)), "ink", 1.2, arrow=True))
        top += 0.12 * deep
        said = say("{pressure} {unit} net", pressure=show(load.pressure, "kPa", units), unit=shown_unit("kPa", units))
    sketch.add(Text((x, top), f"{label(load.kind)}, {said}", 12, "ink", "middle", bold=True, dy=-6))
    sketch.add(Line(((0, 0), (wide, 0)), "ink", 1.8))
    return Drawing(tuple(sketch.shapes), (0, -deep, wide, max(top, 0.0) + 0.06 * deep))
