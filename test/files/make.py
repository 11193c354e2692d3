"""
Makes the DXF cut files of this folder with ezdxf (Debian: python3-ezdxf). Run by make.sh.
"""
import math, sys
import ezdxf, ezdxf.math

folder = sys.argv[1]


def bulged(msp, points, closed, heavy, **at):
    if heavy:
        line = msp.add_polyline2d([(x, y) for x, y, _ in points], close=closed, dxfattribs=at)
        for vertex, (_, _, bulge) in zip(line.vertices, points):
            vertex.dxf.bulge = bulge
    else:
        msp.add_lwpolyline(points, format="xyb", close=closed, dxfattribs=at)


def tag(block, heavy):
    bulged(block, [(0, 0, 0), (30, 0, math.tan(math.pi / 8)), (30, 20, 0), (0, 20, -0.4)], True, heavy, layer="0")
    block.add_circle((8, 10), 2.5, dxfattribs={"layer": "holes"})


def common(doc, msp, heavy):
    doc.layers.add("outline", color=1)
    doc.layers.add("holes", color=5)
    tag(doc.blocks.new("TAG", base_point=(5, 5)), heavy)
    nest = doc.blocks.new("NEST")
    nest.add_blockref("TAG", (40, 0), dxfattribs={"rotation": 30, "layer": "outline"})
    nest.add_line((0, 0), (10, 25), dxfattribs={"layer": "outline"})
    msp.add_blockref("TAG", (60, 40), dxfattribs={"rotation": 25, "xscale": 1.5, "yscale": 0.8, "layer": "outline"})
    msp.add_blockref("NEST", (120, 90), dxfattribs={"rotation": -70, "xscale": -1, "yscale": 1, "layer": "outline"})
    grid = msp.add_blockref("TAG", (20, 150), dxfattribs={"rotation": 10, "layer": "outline"})
    grid.grid((2, 3), (28, 36))
    msp.add_line((5, 5), (190, 12), dxfattribs={"layer": "outline", "color": 3})
    msp.add_arc((100, 60), 35, 200, 20, dxfattribs={"layer": "outline"})
    msp.add_circle((150, 200), 50, dxfattribs={"layer": "outline"})
    # Seen from behind: x runs the other way.
    msp.add_arc((-60, 240), 20, 30, 160, dxfattribs={"layer": "outline", "extrusion": (0, 0, -1)})
    bulged(msp, [(10, 260, 0.3), (60, 262, -1), (90, 280, 2.5), (120, 250, 0)], False, heavy, layer="outline")


old = ezdxf.new("R12")
common(old, old.modelspace(), True)
old.modelspace().add_text("not a cut line", dxfattribs={"layer": "outline"}).set_pos((10, 10))
old.saveas(folder + "/ezdxf-r12.dxf")

new = ezdxf.new("R2010", units=1)  # inches
msp = new.modelspace()
common(new, msp, False)
msp.add_ellipse((60, 120), (30, 12), 0.4, 0.3, 5.2, dxfattribs={"layer": "outline"})
msp.add_ellipse((160, 60), (0, 22), 0.5, dxfattribs={"layer": "holes"})
controls = [(10, 30), (40, 80), (70, 10), (100, 70), (130, 20), (150, 60)]
msp.add_open_spline([(x, y, 0) for x, y in controls], degree=3, dxfattribs={"layer": "outline"})
msp.add_rational_spline([(x, y + 100, 0) for x, y in controls], [1, 2, 0.5, 3, 1, 1], degree=4)
closed = ezdxf.math.closed_uniform_bspline([(x, y + 180, 0) for x, y in controls], order=4)
msp.add_spline(dxfattribs={"layer": "holes"}).apply_construction_tool(closed)
msp.add_text("not a cut line").set_pos((10, 10))
# Small in inches: about 200 mm across.
for entity in msp:
    entity.scale_uniform(1 / 25.4)
    if entity.dxftype() == "INSERT":  # the spacing of a grid does not scale with it
        entity.dxf.row_spacing /= 25.4
        entity.dxf.column_spacing /= 25.4
new.saveas(folder + "/ezdxf-r2010-inch.dxf")
