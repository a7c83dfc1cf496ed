"""The search of Match a second time, as a page of NumPy would do it: reads what bench_match_plain wrote, tries
every motor on every head with every drive, limits from cheap to dear with masks, drives by broadcasting.
Prints seconds, how many fit, and the first hundred by share + price/1000."""
import json
import sys
import time

import numpy as np

data = json.load(open(sys.argv[1]))
begin = time.perf_counter()
span = np.array(data["stretches"])  # seconds, direction, N·m, rad/s² and greatest rad/s at the head's output
dt, direction, load, accel, speed = span.T
cycle, mean_speed, load_inertia = data["cycle"], data["mean_speed"], data["load_inertia"]
motors = {k: np.array(v) for k, v in data["motors"].items()}
heads, drives = data["heads"], {k: np.array(v) for k, v in data["drives"].items()}
ic, ipk, room = drives["continuous"], drives["peak"], None
room = (ipk**2 - ic**2) * drives["peak_time"]


def curve(knee, top, at_knee, at_top, w):
    """Straight from the knee to the top speed, level before."""
    falling = at_knee + (at_top - at_knee) * (w - knee) / (top - knee)
    return np.where(w <= knee, at_knee, np.where(w <= top, falling, 0.0))


def overload(current, borne):
    """Greatest sum of (I² − c)·t over any stretch of the steady cycle: two rounds from nothing."""
    level = np.zeros_like(borne)
    most = np.zeros_like(borne)
    for _ in range(2):
        for k in range(len(dt)):
            level = np.maximum(0.0, level + (current[:, k] ** 2 - borne**2) * dt[k])
            most = np.maximum(most, level)
    return most


fit = 0
found = []
for h, head in enumerate(heads):
    i, eta, back, inertia, drag = (head[k] for k in ("ratio", "efficiency", "back", "inertia", "drag"))
    by_head = max(data["equivalent"] / head["nominal"], data["gear_peak"] / head["peak"],
                  mean_speed * i / head["mean_speed"], speed.max() * i / head["max_speed"])
    if by_head > 1.0:
        continue
    ratio = (load_inertia / i**2 + inertia) / motors["inertia"]
    used = np.maximum(by_head, np.maximum(ratio / data["most_ratio"], speed.max() * i / motors["max_speed"]))
    some = np.nonzero(used <= 1.0)[0]
    if not len(some):
        continue
    m = {k: v[some][:, None] for k, v in motors.items()}
    crossing = load * direction
    factor = np.where(crossing > 0, 1.0 / (i * eta), np.where(crossing < 0, back / i, 1.0 / i))
    torque = load * factor + (m["inertia"] + inertia) * i * accel + direction * drag
    rms = np.sqrt((torque**2 * dt).sum(axis=1) / cycle)
    w = mean_speed * i
    lasting = m["cont"][:, 0] * (1.0 - 0.4 * w / m["max_speed"][:, 0])
    used = np.maximum(used[some], rms / np.where(w <= m["max_speed"][:, 0], lasting, 1e-300))
    braking = torque * direction < 0
    most = np.where(braking, m["most"], curve(m["knee"], m["max_speed"], m["most"], 0.4 * m["most"], speed * i))
    used = np.maximum(used, (np.abs(torque) / np.maximum(most, 1e-300)).max(axis=1))
    keep = used <= 1.0
    some, used, torque, kt = some[keep], used[keep], torque[keep], m["kt"][keep]
    if not len(some):
        continue
    current = np.abs(torque) / kt
    rms_current = np.sqrt((current**2 * dt).sum(axis=1) / cycle)[:, None]
    peak = current.max(axis=1)[:, None]
    all_used = np.maximum(used[:, None], np.maximum(rms_current / ic, peak / ipk))
    p, d = np.nonzero(all_used <= 1.0)
    share = np.maximum(all_used[p, d], overload(current[p], ic[d]) / room[d])
    ok = share <= 1.0
    p, d, share = p[ok], d[ok], share[ok]
    fit += len(p)
    key = share + (motors["price"][some[p]] + head["price"] + drives["price"][d]) / 1000.0
    for one in np.argsort(key, kind="stable")[:100]:
        found.append((key[one], int(some[p[one]]), h, int(d[one]), share[one]))
found.sort()
seconds = time.perf_counter() - begin
print(json.dumps({"seconds": seconds, "fit": fit, "top": [[k, s, m, h, d] for k, m, h, d, s in found[:100]]}))
