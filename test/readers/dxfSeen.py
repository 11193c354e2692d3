"""
What of a DXF file is seen when ezdxf plots it, which is not ours: every line drawn as points, mm, as JSON on stdout.
    /usr/bin/python3 test/readers/dxfSeen.py FILE …
One list a file.
"""
import json, sys
import ezdxf
from ezdxf.addons.drawing import Frontend, RenderContext
from ezdxf.addons.drawing.backend import Backend


class Seen(Backend):
    def __init__(self):
        super().__init__()
        self.lines = []

    def put(self, points):
        self.lines.append({"points": [(p.x, p.y) for p in points]})

    def draw_line(self, start, end, properties):
        self.put([start, end])

    def draw_path(self, path, properties):
        self.put(list(path.flattening(0.01)))

    def draw_point(self, pos, properties):
        pass

    def draw_filled_polygon(self, points, properties):
        pass

    def draw_text(self, *args, **kwargs):
        pass

    def get_font_measurements(self, cap_height, font=None):
        raise NotImplementedError

    def get_text_line_width(self, *args, **kwargs):
        raise NotImplementedError

    def set_background(self, color):
        pass

    def clear(self):
        self.lines = []


def seen(name):
    doc = ezdxf.readfile(name)
    backend = Seen()
    Frontend(RenderContext(doc, export_mode=True), backend).draw_layout(doc.modelspace())
    return backend.lines


json.dump([seen(name) for name in sys.argv[1:]], sys.stdout)
