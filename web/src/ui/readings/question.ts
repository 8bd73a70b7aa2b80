import type { PlantEngine, Schemas } from "../../api/client";

/** An engine as the model is asked about it, held against its own healthy rounds, its sister's, or its type. */
export function askedOf(engine: Schemas["Engine"], standard?: Schemas["PlantComparison"]): PlantEngine {
  const { family, fuel, rated_kw, rated_rpm, thermostat_c, circuit, cooling, baseline } = engine;
  const own = baseline && { kind: "baseline" as const, rounds: baseline.rounds };
  const by = standard ?? own;
  return {
    family,
    fuel,
    rated_kw,
    rated_rpm,
    thermostat_c,
    circuit,
    cooling,
    ...(by && by.rounds.length > 0 && { standard: { kind: by.kind, rounds: by.rounds } }),
  };
}
