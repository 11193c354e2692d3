"""
Reads DXF files with ezdxf, a reader that is not ours: every line to cut as points, mm, as JSON on stdout; a list a file.
    /usr/bin/python3 test/readers/dxf.py FILE …
"""
import json, sys
import ezdxf, ezdxf.disassemble


def lines(name):
    doc = ezdxf.readfile(name)
    unit = {1: 25.4, 4: 1.0, 5: 10.0, 6: 1000.0}.get(doc.header.get("$INSUNITS", 4), 1.0)
    fine = 0.0005 / unit
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
                put([part.dxf.start, part.dxf.end] if part.dxftype() == "LINE" else part.flattening(fine))
        elif kind in ("ARC", "CIRCLE", "ELLIPSE", "SPLINE"):
            put(entity.flattening(fine))
    return out


json.dump([lines(name) for name in sys.argv[1:]], sys.stdout)
