#!/usr/bin/env python3
"""Makes the tables that the core's sums are checked against, with general reference libraries that are not Hevrin's:

  gsw     TEOS-10, the thermodynamic equation of sea water          (Debian: python3-gsw)
  iapws   IAPWS-IF97, the industrial formulation for water          (Debian: python3-iapws)
  fluids  friction in pipes, Colebrook solved exactly               (Debian: python3-fluids)
  pint    units of measurement                                      (Debian: python3-pint)
  scipy   differential equations, for exchangers from first principles, and least squares (Debian: python3-scipy)

    apt-get install python3-gsw python3-iapws python3-fluids python3-pint python3-scipy
    /usr/bin/python3 reference/make.py reference/tables

The tables are committed. A test makes them afresh where the libraries are present, and compares.
"""
import csv
import os
import sys

import numpy as np


def sea_water():
    import gsw
    yield ["temperature_c", "salinity_g_kg", "density_kg_m3", "specific_heat_j_kg_k", "freezing_c"]
    for s in (0, 5, 10, 20, 30, 35, 38, 42):
        for t in (0, 5, 10, 15, 20, 25, 30, 35, 40):
            yield [t, s, "%.6f" % gsw.rho_t_exact(s, t, 0), "%.6f" % gsw.cp_t_exact(s, t, 0),
                   "%.6f" % gsw.t_freezing(s, 0, 1)]


def fresh_water():
    from iapws import IAPWS97
    yield ["temperature_c", "density_kg_m3", "specific_heat_j_kg_k", "viscosity_pa_s", "conductivity_w_m_k"]
    for t in (0.01, 5, 10, 20, 30, 40, 50, 60, 70, 80, 90, 99):
        w = IAPWS97(T=t + 273.15, P=0.101325)
        yield [t, "%.6f" % w.rho, "%.6f" % (1000 * w.cp), "%.9f" % w.mu, "%.7f" % w.k]


def saturation():
    from iapws import IAPWS97
    yield ["temperature_c", "pressure_kpa", "latent_heat_kj_kg"]
    for t in (0.01, 5, 10, 20, 26.85, 30, 40, 50, 60, 70, 80, 90, 95, 100, 110, 120, 150, 226.85):
        vapour, liquid = IAPWS97(T=t + 273.15, x=1), IAPWS97(T=t + 273.15, x=0)
        yield [t, "%.9f" % (1000 * vapour.P), "%.6f" % (vapour.h - liquid.h)]


def friction():
    from fluids.friction import Colebrook
    yield ["reynolds", "relative_roughness", "friction_factor"]
    for re in (4001, 5e3, 1e4, 3e4, 1e5, 1e6, 1e7):
        for e in (0, 1e-5, 1e-4, 1e-3, 1e-2, 5e-2):
            yield ["%g" % re, "%g" % e, "%.12f" % Colebrook(re, e)]


# Unit ids of package quantity, as pint names them, with the base unit of the dimension.
UNITS = {
    "degF": ("degF", "degC"), "degK": ("kelvin", "degC"), "F-diff": ("delta_degF", "delta_degC"),
    "L/h": ("liter/hour", "liter/minute"), "m3/h": ("meter**3/hour", "liter/minute"),
    "gal-us/min": ("gallon/minute", "liter/minute"), "gal-imp/min": ("imperial_gallon/minute", "liter/minute"),
    "gal-us/h": ("gallon/hour", "liter/minute"), "gal-imp/h": ("imperial_gallon/hour", "liter/minute"),
    "gal-us": ("gallon", "liter"), "gal-imp": ("imperial_gallon", "liter"), "qt-us": ("quart", "liter"),
    "pt-imp": ("imperial_pint", "liter"), "pt-us": ("pint", "liter"), "mL": ("milliliter", "liter"),
    "bar": ("bar", "kilopascal"), "mbar": ("millibar", "kilopascal"), "psi": ("psi", "kilopascal"),
    "inHg": ("inch_Hg", "kilopascal"), "cm": ("centimeter", "millimeter"), "m": ("meter", "millimeter"),
    "in": ("inch", "millimeter"), "ft": ("foot", "millimeter"), "W": ("watt", "kilowatt"),
    "hp": ("horsepower", "kilowatt"), "hp-metric": ("metric_horsepower", "kilowatt"), "g": ("gram", "kilogram"),
    "lb": ("pound", "kilogram"), "oz": ("ounce", "kilogram"), "kg/s": ("kilogram/second", "kilogram/hour"),
    "lb/h": ("pound/hour", "kilogram/hour"), "min": ("minute", "second"), "h": ("hour", "second"),
    "ft/s": ("foot/second", "meter/second"), "F/min": ("delta_degF/minute", "delta_degC/minute"),
    "kg/L": ("kilogram/liter", "kilogram/meter**3"), "lb/gal-us": ("pound/gallon", "kilogram/meter**3"),
    "lb/gal-imp": ("pound/imperial_gallon", "kilogram/meter**3"),
    "Btu/(lb F)": ("Btu/(pound*delta_degF)", "joule/(kilogram*delta_degC)"),
}


def units():
    import pint
    u = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
    yield ["unit", "value", "in_base_unit"]
    for ours, (theirs, base) in UNITS.items():
        for v in (1.0, 160.0):
            yield [ours, "%g" % v, "%.12g" % u.Quantity(v, theirs).to(base).magnitude]


def effectiveness():
    """Exchangers from first principles: the heat balance of each stretch, integrated, with no formula for the whole."""
    from scipy.integrate import solve_bvp, solve_ivp
    yield ["arrangement", "ntu", "capacity_ratio", "effectiveness"]
    for ntu in (0.25, 0.5, 1, 2, 3, 5):
        for cr in (0.05, 0.25, 0.5, 0.75, 1.0):
            yield ["parallel", ntu, cr, "%.8f" % parallel(ntu, cr, solve_ivp)]
            yield ["counterflow", ntu, cr, "%.8f" % counterflow(ntu, cr, solve_bvp)]
            yield ["shell-and-tube-1", ntu, cr, "%.8f" % shell_and_tube(ntu, cr, solve_bvp)]
            yield ["crossflow-unmixed", ntu, cr, "%.8f" % crossflow(ntu, cr)]


def parallel(ntu, cr, solve_ivp):
    # the stream of the smaller capacity is hot and enters at 1, the other at 0
    s = solve_ivp(lambda x, y: [-ntu * (y[0] - y[1]), cr * ntu * (y[0] - y[1])], (0, 1), [1, 0], rtol=1e-11, atol=1e-12)
    return 1 - s.y[0, -1]


def counterflow(ntu, cr, solve_bvp):
    x = np.linspace(0, 1, 200)
    s = solve_bvp(lambda x, y: [-ntu * (y[0] - y[1]), -cr * ntu * (y[0] - y[1])],
                  lambda a, b: [a[0] - 1, b[1]], x, np.array([1 - x / 2, 0.5 - x / 2]), tol=1e-9, max_nodes=100000)
    return 1 - s.y[0, -1]


def shell_and_tube(ntu, cr, solve_bvp):
    # shell fluid (0) down the shell; tubes go with it (1) and come back (2), half of the surface each; the shell has the
    # smaller capacity
    x = np.linspace(0, 1, 200)

    def change(x, y):
        one, two = y[0] - y[1], y[0] - y[2]
        return [-ntu / 2 * (one + two), cr * ntu / 2 * one, -cr * ntu / 2 * two]
    s = solve_bvp(change, lambda a, b: [a[0] - 1, a[1], b[1] - b[2]], x,
                  np.array([1 - x / 2, x / 4, 0.5 - x / 4]), tol=1e-9, max_nodes=100000)
    return 1 - s.y[0, -1]


def crossflow(ntu, cr, n=1600):
    # a sheet of n by n cells, the hot stream down the columns, the cold one along the rows; two sizes, extrapolated
    def sheet(n):
        k, h = 0.5 * ntu / n, 0.5 * cr * ntu / n
        hot, out = np.ones(n), 0.0
        # cell by cell the trapezoid rule: both streams change by the mean difference across the cell
        cold = np.zeros(n)
        # wave along the diagonals keeps it quick
        grid_hot, grid_cold = np.empty((n + 1, n)), np.empty((n, n + 1))
        grid_hot[0, :], grid_cold[:, 0] = 1.0, 0.0
        for d in range(2 * n - 1):
            i = np.arange(max(0, d - n + 1), min(n, d + 1))
            j = d - i
            a, b = grid_hot[i, j], grid_cold[i, j]
            diff = 2 * (a - b) / (2 + 2 * k + 2 * h) * 1.0
            grid_hot[i + 1, j] = a - 2 * k * diff
            grid_cold[i, j + 1] = b + 2 * h * diff
        return 1 - grid_hot[n, :].mean()
    coarse, fine = sheet(n // 2), sheet(n)
    return fine + (fine - coarse) / 3


def growth_sets():
    # drawn once, by a seed: scale that grows in proportion and scale that levels off, few points and many
    lots = np.random.default_rng(7)
    for name, n, f in (("linear-4", 4, lambda h: 0.02 + 2.5e-4 * h), ("linear-12", 12, lambda h: 0.05 + 1.2e-4 * h),
                       ("linear-30", 30, lambda h: -0.01 + 8e-5 * h), ("levels-10", 10, lambda h: 0.03 + 0.3 * (1 - np.exp(-h / 250))),
                       ("levels-24", 24, lambda h: 0.45 * (1 - np.exp(-h / 600)))):
        hours = np.sort(lots.uniform(0, 1500, n)).round(1)
        error = lots.uniform(0.006, 0.015, n).round(4)
        yield name, hours, (f(hours) + lots.normal(0, 1, n) * error).round(5), error


def growth_points():
    yield ["set", "hours", "value", "error"]
    for name, hours, value, error in growth_sets():
        for row in zip(hours, value, error):
            yield [name, "%.1f" % row[0], "%.5f" % row[1], "%.4f" % row[2]]


def growth_fits():
    from scipy.optimize import curve_fit
    shapes = {"linear": lambda h, a, b: a + b * h, "asymptotic": lambda h, a, b, tau: a + b * (1 - np.exp(-h / tau))}
    yield ["set", "shape", "start", "grows", "tau", "start_error", "grows_error", "tau_error", "chi_square", "at_2000", "at_2000_error"]
    for name, hours, value, error in growth_sets():
        shape = "linear" if name.startswith("linear") else "asymptotic"
        f, h = shapes[shape], hours - hours[0]
        first = None if shape == "linear" else (value[0], value[-1] - value[0], h[-1] / 3)
        p, c = curve_fit(f, h, value, p0=first, sigma=error, absolute_sigma=True, xtol=1e-14, ftol=1e-14, maxfev=100000)
        chi, x = (((value - f(h, *p)) / error) ** 2).sum(), 2000 - hours[0]
        d = np.array([1, x]) if shape == "linear" else np.array([1, 1 - np.exp(-x / p[2]), -p[1] * np.exp(-x / p[2]) * x / p[2] ** 2])
        e = np.sqrt(np.diag(c))
        tau = ("%.6g" % p[2], "%.6g" % e[2]) if shape == "asymptotic" else ("0", "0")
        yield [name, shape, "%.8g" % p[0], "%.8g" % p[1], tau[0], "%.8g" % e[0], "%.8g" % e[1], tau[1], "%.8g" % chi,
               "%.8g" % f(x, *p), "%.8g" % np.sqrt(d @ c @ d)]


def test_runs():
    # drawn once, by a seed: warm-ups to a thermostat's rating and what comes after, logged often and seldom
    lots = np.random.default_rng(11)
    ends = {"steady": lambda m: 0 * m, "rising": lambda m: 0.5 * m, "creeping": lambda m: 0.12 * m, "slowed": lambda m: -2.5 * np.maximum(m - 9, 0),
            "hunting": lambda m: 3.2 * np.sin(m * 4), "overshoot": lambda m: 4 * np.exp(-m / 1.5) * np.minimum(m, 1) * 2,
            "reheated": lambda m: -34 * np.exp(-((m - 5) / 1.5) ** 2), "slow": lambda m: -0.2 * m,
            "regular": lambda m: 0 * m, "settling": lambda m: -0.08 * np.maximum(12 - m, 0)}
    n = 0
    for end, every in [(e, s) for e in list(ends)[:6] for s in (10, 25, 60)] + [
            ("steady", 5), ("steady", 90), ("rising", 40), ("reheated", 15), ("reheated", 30), ("slow", 20), ("slow", 45), ("regular", 10),
            ("regular", 30), ("settling", 20), ("settling", 30)]:
        n += 1
        rating, load = lots.choice([71, 76, 82, 88]), lots.choice(["idle", "cruise", "full"])
        minutes, window = lots.uniform(10, 24), lots.choice([5, 8, 10])
        seconds = np.unique((np.arange(0, minutes * 60, every) + lots.uniform(0, 0.3 * every, int(np.ceil(minutes * 60 / every)))).round(1))
        if end == "regular":  # by a clock that ran before
            seconds = 5000 + np.arange(0, 60 * np.floor(minutes), float(every))
        start, rate, off = lots.uniform(10, 30), lots.uniform(6, 15), lots.uniform(-6, 16)
        m = (seconds - (5000 if end == "regular" else 0)) / 60
        knee = (rating - 4 - start) / rate
        after = np.maximum(m - knee, 0)
        c = np.where(m < knee, start + rate * m, rating - 4 + (off + 4) * (1 - np.exp(-after * rate / 6))) + ends[end](after)
        c += lots.normal(0, 0.02 if end == "settling" else lots.choice([0.05, 0.2, 0.5]), len(c))
        for i in lots.choice(len(c), lots.integers(0, 3), replace=False):
            c[i] += lots.choice([-25, 18])
        if n % 5 == 0:  # a logger that slept
            keep = (m < minutes * 0.8) | (m > minutes * 0.8 + 2.5)
            seconds, c = seconds[keep], c[keep]
        rules = {"rating_c": rating, "load": load, "plateau_minutes": window, "slope_c_min": 0.03 if end == "settling" else 0.25, "below_c": 4, "above_c": {"full": 13}.get(load, 8)}
        yield "%s-%d" % (end, every), rules, seconds, c.round(2)


def test_run_samples():
    yield ["run", "seconds", "coolant_c"]
    for name, _, seconds, c in test_runs():
        for row in zip(seconds, c):
            yield [name, "%.1f" % row[0], "%.2f" % row[1]]


def judged(rules, t, c):
    """What docs/readings.md says of a run, by scipy's straight lines in place of Hevrin's running sums."""
    from scipy.stats import linregress
    out = {}
    # odd samples (Hampel): 3 K off the median of five either side, and 4.5 times as far as those scatter
    odd = []
    for i in range(len(c)):
        near = np.delete(c[max(0, i - 5):i + 6], min(i, 5))
        middle = np.median(near)
        rise = 0 < i < len(c) - 1 and t[i + 1] - t[i - 1] >= 60 and (c[i] - c[i - 1]) * (c[i + 1] - c[i]) >= 0
        if abs(c[i] - middle) > 3 and not rise and abs(c[i] - middle) > 4.5 * np.median(abs(near - middle)):
            odd.append(i)
    out["odd"] = " ".join(map(str, odd))
    t, c = np.delete(t, odd), np.delete(c, odd)
    if len(t) < 10:
        return out | {"verdict": "too-short"}

    def line(a, b):  # both included
        x, y = t[a:b + 1], c[a:b + 1]
        fit = linregress(x, y)
        scatter = np.sqrt(max(0, ((y - fit.intercept - fit.slope * x) ** 2).sum()) / (len(x) - 2)) if len(x) > 2 else 0
        return {"first": a, "n": len(x), "mean": y.mean(), "slope": 60 * fit.slope, "error": 60 * fit.stderr if len(x) > 2 else 0,
                "scatter": scatter, "gap": np.diff(x).max(initial=0), "at": lambda s: fit.intercept + fit.slope * s}
    # the slope about each sample, over a minute or 2.2 samples
    half = max(60, 2.2 * (t[-1] - t[0]) / (len(t) - 1)) / 2
    slope, level = np.empty(len(t)), np.empty(len(t))
    for i in range(len(t)):
        near = np.flatnonzero(abs(t - t[i]) <= half)
        a, b = near[0], near[-1]
        if b - a < 2:
            a, b = max(0, i - 1), min(len(t) - 1, i + 1)
        slope[i], level[i] = line(a, b)["slope"], line(a, b)["at"](t[i])
    top, start, opened = level.max(), level[0], None
    if top - start >= 10:
        share = (level - start) / (top - start)
        up_to = np.flatnonzero(share >= 0.75)[0] + 1
        rates = [s for s, h in zip(slope[:up_to], share) if 0.25 < h < 0.75 and s > 0]
        rate = np.median(rates) if rates else 0
        if rate > 0:
            out["warm_up_c_min"] = rate

            def crossing(i, at):
                f = (slope[i - 1] - at) / (slope[i - 1] - slope[i])
                return t[i - 1] + f * (t[i] - t[i - 1]), level[i - 1] + f * (level[i] - level[i - 1])
            began = None
            for i in range(1, len(t)):
                if slope[i] < rate * 2 / 3 <= slope[i - 1]:
                    began = crossing(i, rate * 2 / 3)
                if began is None or not slope[i] <= rate / 3 < slope[i - 1]:
                    continue
                opened = crossing(i, rate / 3)
                if opened[1] >= rules["rating_c"] - 15 and opened[1] - began[1] <= 6:
                    out["opened_s"], out["opened_c"] = opened
                    break
                began = opened = None
    window = 60 * rules["plateau_minutes"]

    def up_to(i, seconds):
        return line(np.flatnonzero(t >= t[i] - seconds - 1e-9)[0], i)

    def stands(l):
        return abs(l["slope"]) + l["error"] < rules["slope_c_min"] and l["scatter"] <= 2 and l["gap"] <= 120 and l["n"] >= 5

    def plateau(i, l):
        a = l["first"]
        while a > 0 and t[a] - t[a - 1] <= 120 and abs(level[a - 1] - l["mean"]) <= 1 and stands(line(a - 1, i) | {"gap": 0}):
            a -= 1
        off = l["mean"] - rules["rating_c"]
        verdict = "above-rating" if off > rules["above_c"] else "steady"
        if -off > rules["below_c"] and rules["load"] != "idle":
            verdict = "below-rating"
        return {"plateau_c": l["mean"], "from_s": t[a], "to_s": t[i], "slope_c_min": l["slope"], "slope_error_c_min": l["error"],
                "overshoot_c": max(0, level[:i + 1].max() - l["mean"]), "verdict": verdict}
    end = up_to(len(t) - 1, window)
    if t[-1] - t[0] < window or end["gap"] > 120 or end["n"] < 5:
        return out | {"verdict": "too-short"}
    for share in (1.25, 1.5, 1.75, 2):
        if stands(end) or abs(end["slope"]) >= rules["slope_c_min"]:
            break
        if stands(up_to(len(t) - 1, share * window)):
            end = up_to(len(t) - 1, share * window)
    if stands(end):
        return out | plateau(len(t) - 1, end)
    line_there = {"slope_c_min": end["slope"], "slope_error_c_min": end["error"]}
    if opened and t[-1] - opened[0] < window:
        return out | line_there | {"verdict": "too-short"}
    if end["slope"] - end["error"] > 0 and end["scatter"] <= 2:
        return out | line_there | {"verdict": "still-rising"}
    if end["slope"] < 0:
        for i in range(len(t) - 1, -1, -1):
            if t[i] - t[0] >= window and stands(up_to(i, window)):
                return out | plateau(i, up_to(i, window))
    return out | line_there | {"verdict": "unsteady"}


def test_run_results():
    rules = ["rating_c", "load", "plateau_minutes", "slope_c_min", "below_c", "above_c"]
    shows = ["verdict", "odd", "warm_up_c_min", "opened_s", "opened_c", "plateau_c", "from_s", "to_s", "slope", "slope_error", "overshoot_c"]
    yield ["run"] + rules + shows
    for name, r, seconds, c in test_runs():
        out = judged(r, seconds, c)
        out["slope"], out["slope_error"] = out.get("slope_c_min", ""), out.get("slope_error_c_min", "")
        yield [name] + [str(r[k]) for k in rules] + [x if isinstance(x, str) else "%.10g" % x for x in (out.get(k, "") for k in shows)]


TABLES = {"sea-water": sea_water, "fresh-water": fresh_water, "saturation": saturation, "friction": friction,
          "units": units, "effectiveness": effectiveness, "growth-points": growth_points, "growth-fits": growth_fits,
          "test-run-samples": test_run_samples, "test-run-results": test_run_results}

if __name__ == "__main__":
    folder = sys.argv[1]
    os.makedirs(folder, exist_ok=True)
    for name in sys.argv[2:] or TABLES:
        with open(os.path.join(folder, name + ".csv"), "w", newline="") as f:
            csv.writer(f, lineterminator="\n").writerows(TABLES[name]())
