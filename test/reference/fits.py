"""
Writes fits.json: the model ladder fitted in 60-digit arithmetic by a second implementation (mpmath), the normal
equations and plain Gauss-Newton included, which only extended precision forgives.
    /usr/bin/python3 test/reference/fits.py > test/reference/fits.json      (Debian: python3-mpmath)
"""
import json, random
from mpmath import mp, mpf, matrix, sqrt, sin, cos, lu_solve, inverse

mp.dps = 60
MODELS = ["shift", "rigid", "similarity", "affine", "projective", "roll"]


def landed(model, b, x, y):
    if model == "shift":
        return x + b[0], y + b[1]
    if model == "rigid":
        c, s = cos(b[0]), sin(b[0])
        return c * x - s * y + b[1], s * x + c * y + b[2]
    if model == "similarity":
        return b[0] * x - b[1] * y + b[2], b[1] * x + b[0] * y + b[3]
    if model == "affine":
        return b[0] * x + b[1] * y + b[4], b[2] * x + b[3] * y + b[5]
    if model == "roll":
        return b[0] * x + b[1] * y + b[4] + b[6] * y * y, b[2] * x + b[3] * y + b[5] + b[7] * y * y
    w = b[6] * x + b[7] * y + 1
    return (b[0] * x + b[1] * y + b[2]) / w, (b[3] * x + b[4] * y + b[5]) / w


START = {"shift": [0, 0], "rigid": [0, 0, 0], "similarity": [1, 0, 0, 0], "affine": [1, 0, 0, 1, 0, 0], "roll": [1, 0, 0, 1, 0, 0, 0, 0],
         "projective": [1, 0, 0, 0, 1, 0, 0, 0]}
NAMES = {"shift": ["tx", "ty"], "rigid": ["theta", "tx", "ty"], "similarity": ["a", "b", "tx", "ty"],
         "affine": ["a11", "a12", "a21", "a22", "tx", "ty"],
         "roll": ["a11", "a12", "a21", "a22", "tx", "ty", "bowX", "bowY"],
         "projective": ["h11", "h12", "h13", "h21", "h22", "h23", "h31", "h32"]}


def residuals(model, b, stations):
    out = []
    for s in stations:
        x, y, u = mpf(s["x"]), mpf(s["y"]), mpf(s["u"])
        zx, zy = landed(model, b, x, y)
        out += [(mpf(s["dx"]) - (zx - x)) / u, (mpf(s["dy"]) - (zy - y)) / u]
    return out


def jacobian(model, b, stations):
    k, step = len(b), mpf(10) ** -25
    columns = []
    for j in range(k):
        up = [v + (step if i == j else 0) for i, v in enumerate(b)]
        down = [v - (step if i == j else 0) for i, v in enumerate(b)]
        r_up, r_down = residuals(model, up, stations), residuals(model, down, stations)
        columns.append([(d - u) / (2 * step) for u, d in zip(r_up, r_down)])
    return matrix([[columns[j][i] for j in range(k)] for i in range(2 * len(stations))])


def fit(model, stations):
    b = [mpf(v) for v in START[model]]
    for _ in range(12):
        J, r = jacobian(model, b, stations), matrix(residuals(model, b, stations))
        b = [v + d for v, d in zip(b, lu_solve(J.T * J, J.T * r))]
    J, r = jacobian(model, b, stations), residuals(model, b, stations)
    gram = inverse(J.T * J)
    n, k = len(r), len(b)
    hat = [(J[i, :] * gram * J[i, :].T)[0] for i in range(n)]
    chi2 = sum(v * v for v in r)
    student = [r[i] / sqrt((chi2 - r[i] ** 2 / (1 - hat[i])) / (n - k - 1) * (1 - hat[i])) for i in range(n)]
    f = lambda v: float(mp.nstr(v, 17))
    return {"params": dict(zip(NAMES[model], map(f, b))),
            "se": {m: f(sqrt(gram[i, i])) for i, m in enumerate(NAMES[model])},
            "chi2": f(chi2), "leverage": [f(v) for v in hat], "rstudent": [f(v) for v in student]}


def case(name, origin, seed):
    rng = random.Random(seed)
    stations = []
    for row in range(3):
        for column in range(3):
            x, y = origin + 20 + 85 * column + rng.randint(-9, 9), origin + 30 + 110 * row + rng.randint(-9, 9)
            cx, cy = (x - origin - 105) / 1000, (y - origin - 150) / 1000
            dx = 0.31 + 1.2 * cx - 0.8 * cy + 3.0 * cx * cy + rng.gauss(0, 0.03)
            dy = -0.18 + 0.9 * cx + 1.4 * cy + 2.0 * cy * cy + rng.gauss(0, 0.03)
            stations.append({"id": "s%d" % len(stations), "x": x, "y": y, "dx": round(dx, 3), "dy": round(dy, 3),
                             "u": [0.03, 0.05, 0.02][(row + column) % 3]})
    return {"name": name, "stations": stations, "models": {m: fit(m, stations) for m in MODELS}}


print(json.dumps([case("near the origin", 0, 1), case("at 50 000 mm", 50000, 2)], indent=1))
