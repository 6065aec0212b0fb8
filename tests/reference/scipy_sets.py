"""What SciPy says of balance, drift and lag, written independently of Zevo's code. JSON on stdin, JSON on stdout.

balance: lean that puts the mass centre over a place of the foot, by walking along the body with complex numbers and
searching the root with Brent's method. drift: Kendall's tau, exact. groups, levelled: Student's t-test
of two groups, as they stand and with a common slope. runs: one-way analysis of variance. student: quantiles of
Student's t. lag: argmax of the cross-correlation of two courses.
"""
import cmath
import json
import math
import sys

import numpy as np
from scipy import optimize, signal, stats

task = json.load(sys.stdin)

# Winter, table 4.1 (from memory): mass share, centre from the upper end. Arms at one place, as the task says.
FOOT, SHANK, THIGH, TRUNK, HEAD = 0.0145, 0.0465, 0.100, 0.497, 0.081
ARMS = 2 * (0.028 + 0.016 + 0.006)


def lean_for(case):
    def off(lean_deg):
        up = lambda deg: cmath.rect(1, math.radians(90 - deg))  # a unit line leaning forward by deg
        ankle = 0
        knee = ankle + case["shank"] * up(case["shin"])
        thigh = case["thigh"] * math.cos(math.radians(case["thighs_out"]))
        hip = knee - thigh * math.cos(math.radians(case["thigh_angle"]))  # heights do not matter here
        along, ahead = up(lean_deg), up(lean_deg + 90)
        shoulder = hip + case["trunk"] * along
        parts = [(2 * FOOT, complex(0.3 * case["foot"], 0)),
                 (2 * SHANK, knee + 0.433 * (ankle - knee)),
                 (2 * THIGH, hip + 0.433 * (knee - hip)),
                 (TRUNK, shoulder + 0.5 * (hip - shoulder)),
                 (HEAD, shoulder + case["head"] * along)]
        for share, held in ((ARMS, case["arms"]), (case["load_share"], case["load"])):
            parts.append((share, shoulder + held[0] * ahead + held[1] * along + held[2]))
        mass = sum(m for m, _ in parts)
        return sum(m * p.real for m, p in parts) / mass - (case["aim"] - 0.2) * case["foot"]

    # What is held ahead of the trunk comes back over the foot in a deep lean: the first crossing is the wanted one.
    furthest = optimize.minimize_scalar(lambda deg: -off(deg), bounds=(-80, 179), method="bounded").x
    return optimize.brentq(off, -80, furthest, xtol=1e-12)


out = {"lean": [lean_for(c) for c in task["balance"]], "drift": [], "lag": []}
for values in task["drift"]:
    out["drift"].append(stats.kendalltau(range(len(values)), values, method="exact").pvalue)
for pair in task["lag"]:
    a, b = np.asarray(pair["a"]), np.asarray(pair["b"])  # both begin and end at rest, which is 0
    full = signal.correlate(b, a, mode="full")
    out["lag"].append((int(np.argmax(full)) - (len(a) - 1)) / pair["rate"])
out["groups"] = [stats.ttest_ind(g["a"], g["b"]).pvalue for g in task.get("groups", [])]
out["student"] = [float(stats.t.ppf(0.95, df)) for df in task.get("student", [])]
# The same with what both groups do alike from place to place in the model: ordinary least squares with one intercept a
# group and one slope for both.
out["levelled"] = []
for g in task.get("groups", []):
    a, b = np.asarray(g["a"]), np.asarray(g["b"])
    place = np.concatenate([np.arange(len(a)), np.arange(len(b))])
    design = np.column_stack([np.ones(len(place)), np.concatenate([np.zeros(len(a)), np.ones(len(b))]), place])
    y = np.concatenate([a, b])
    fit = np.linalg.lstsq(design, y, rcond=None)[0]
    df = len(y) - 3
    sigma2 = float(np.sum((y - design @ fit) ** 2)) / df
    error = math.sqrt(sigma2 * np.linalg.inv(design.T @ design)[1, 1])
    out["levelled"].append(2 * float(stats.t.sf(abs(fit[1]) / error, df)))
out["runs"] = [float(stats.f_oneway(*run).statistic) for run in task.get("runs", [])]
json.dump(out, sys.stdout)
