import { useState } from "react";
import { getEngine, type Schemas } from "../../api/client";
import { newID } from "../../api/ids";
import { useSave } from "../../api/writes";
import { writer } from "../../api/writer";
import { CrossedDialog, isCrossed, type Crossing } from "../Crossed";
import { useNotice } from "../notices";
import { bothOf, type Draft } from "./engineDraft";

type Engine = Schemas["Engine"];

/** Saves an engine; where somebody else saved in between, both are shown. */
export function useEngineSave(engine: Engine | undefined, d: Draft, who: string, onClose: () => void) {
  const { saveEngine } = useSave();
  const { kept, failed } = useNotice();
  const [seen] = useState(engine?.saved); // as it was opened: it may change under the form
  const [crossing, setCrossing] = useState<Crossing<Engine>>();
  const [busy, setBusy] = useState(false); // without a link it waits: a second touch must not save a second one
  const keep = async (archived = engine?.archived ?? false, instead = seen) => {
    writer.set(who);
    setBusy(true);
    const figure = (k: "rated_kw" | "rated_rpm" | "thermostat_c") => Number(d[k].replace(",", "."));
    try {
      await saveEngine(engine?.id ?? newID(), {
        ...d,
        rated_kw: figure("rated_kw"),
        rated_rpm: figure("rated_rpm"),
        thermostat_c: figure("thermostat_c"),
        ...(archived && { archived }),
        ...(instead && { seen: instead }),
        name: d.name.trim(),
        shares_seacock: (d.shares_seacock ?? false) && d.circuit.includes("seacock"),
      });
      kept(`Saved: ${d.name}`);
      onClose();
    } catch (e) {
      if (engine && isCrossed(e)) setCrossing({ say: e.message, theirs: (await getEngine(engine.id)).engine });
      else failed(e);
    }
    setBusy(false);
  };
  const crossed = crossing && (
    <CrossedDialog
      say={crossing.say}
      facts={bothOf(crossing.theirs, d)}
      onMine={() => void keep(engine?.archived, crossing.theirs.saved)}
      onTheirs={onClose}
    />
  );
  return { keep, crossed, busy };
}
