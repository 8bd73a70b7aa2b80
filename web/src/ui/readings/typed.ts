import { useDeferredValue, useMemo } from "react";
import { hasCoolant } from "../engine/circuit";
import { Refused, type JobPage, type Schemas } from "../../api/client";
import { useHealth, useShould } from "../../api/queries";
import { useSystem } from "../unitSystem";
import type { Units } from "../units";
import { askedOf } from "./question";
import { placesOf, roundOf, typedNumber, type Place, type Tool } from "./rounds";

/** What is typed of a round, before it is saved. */
export interface Typed {
  rpm: string;
  sea: string;
  /** Minutes since it was cold; a low reading before its plateau tells nothing. */
  ran?: string;
  outOfGear: boolean;
  tool: Tool;
  typed: Record<string, string>;
  /** What each place was read with: the tool in hand when it was typed. */
  tools: Record<string, Tool>;
  flowError?: number;
  words: string;
}

export const contact: Tool = { instrument: "contact" };
export const nothingTyped: Typed = {
  rpm: "",
  sea: "",
  outOfGear: false,
  tool: contact,
  typed: {},
  tools: {},
  words: "",
};

/** The places of those that a check is read off at: stations, flow, or all. */
export const readAtCheck = (places: Place[], reads: string[]) =>
  reads.includes("all") ? places : places.filter((p) => reads.includes(p.station));

/** What should be read at the operation that was typed, the round as it stands, and what it says. */
export function useRound(page: JobPage, draft: Typed, units: Units) {
  const system = useSystem();
  const engine = useMemo(() => askedOf(page.engine, page.standard), [page]);
  const operation = useMemo((): Schemas["Operation"] | undefined => {
    const [rpm, sea] = [Number(draft.rpm), typedNumber(draft.sea, "degC", units, system)];
    if (!(rpm > 0) || sea === undefined) return undefined;
    const ran = Number(draft.ran);
    return {
      rpm,
      sea_c: sea,
      ...(draft.outOfGear && { out_of_gear: true }),
      ...(ran > 0 && { ran_min: ran }),
    };
  }, [draft.rpm, draft.sea, draft.outOfGear, draft.ran, units, system]);
  const should = useShould(engine, useDeferredValue(operation));
  const state = should.isError ? undefined : should.data;
  const places = useMemo(() => (state ? placesOf(state, !hasCoolant(engine)) : []), [state, engine]);
  const { typed, tools, flowError } = draft;
  const round = useMemo(
    () => operation && roundOf(operation, typed, places, (key) => tools[key] ?? contact, flowError, units, system),
    [operation, typed, tools, flowError, places, units, system],
  );
  const health = useHealth(engine, useDeferredValue(round), system);
  const refusal = [should.error, health.error].find((e) => e instanceof Refused);
  const refused = refusal?.problem.errors?.[0]?.say ?? refusal?.problem.detail;
  return { state, places, round, refused, operation, health: health.isError ? undefined : health.data };
}
