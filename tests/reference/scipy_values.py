"""Computes with SciPy what test_reference checks Zevo's own filter and peak finder against.

Reads JSON from standard input: {"signals": [[...]], "rate": r, "cutoffs": [...], "peaks": [{"height": h, "prominence": p}]};
writes JSON to standard output. SciPy is BSD-licensed; Debian package python3-scipy.
"""
import json
import sys

import numpy as np
from scipy.signal import butter, find_peaks, sosfiltfilt

task = json.load(sys.stdin)
out = {"filtered": [], "peaks": []}
for signal in task["signals"]:
    x = np.array(signal)
    row = []
    for cutoff in task["cutoffs"]:
        # Winter: the single-pass cut-off is the wanted one over 0.802 when a 2nd-order filter runs both ways.
        sos = butter(2, cutoff / 0.802, fs=task["rate"], output="sos")
        # Zevo's padding: point reflection over 3 (order + 1) samples, as SciPy's default for one section.
        row.append(sosfiltfilt(sos, x, padtype="odd", padlen=9).tolist())
    out["filtered"].append(row)
    found = []
    for p in task["peaks"]:
        index, properties = find_peaks(x, height=p["height"], prominence=p["prominence"])
        found.append({"index": index.tolist(), "prominence": properties["prominences"].tolist()})
    out["peaks"].append(found)
json.dump(out, sys.stdout)
