"""
Reads a DXF file with ezdxf, a reader that is not ours: every line to cut as points, mm, as JSON on stdout.
    /usr/bin/python3 test/readers/dxf.py FILE
"""
import json, sys
import ezdxf, ezdxf.disassemble

doc = ezdxf.readfile(sys.argv[1])
unit = {1: 25.4, 4: 1.0, 5: 10.0, 6: 1000.0}.get(doc.header.get("$INSUNITS", 4), 1.0)
FINE = 0.0005 / unit
out = []


def put(points):
    out.append({"points": [(p[0] * unit, p[1] * unit) for p in points]})


for entity in ezdxf.disassemble.recursive_decompose(doc.modelspace()):
    kind = entity.dxftype()
    if kind == "LINE":
        put([entity.dxf.start, entity.dxf.end])
    elif kind in ("LWPOLYLINE", "POLYLINE"):
        # As lines and arcs: its own path of a bulge is a Bezier curve, which is not the arc.
        for part in entity.virtual_entities():
            put([part.dxf.start, part.dxf.end] if part.dxftype() == "LINE" else part.flattening(FINE))
    elif kind in ("ARC", "CIRCLE", "ELLIPSE", "SPLINE"):
        put(entity.flattening(FINE))
json.dump(out, sys.stdout)
