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


TABLES = {"sea-water": sea_water, "fresh-water": fresh_water, "saturation": saturation, "friction": friction,
          "units": units, "effectiveness": effectiveness, "growth-points": growth_points, "growth-fits": growth_fits}

if __name__ == "__main__":
    folder = sys.argv[1]
    os.makedirs(folder, exist_ok=True)
    for name in sys.argv[2:] or TABLES:
        with open(os.path.join(folder, name + ".csv"), "w", newline="") as f:
            csv.writer(f, lineterminator="\n").writerows(TABLES[name]())
