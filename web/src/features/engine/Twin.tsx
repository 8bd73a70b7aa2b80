import { Box, Typography } from "@mui/material";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useServiceRecord, useYard } from "../../api/queries";
import { PlainTable } from "../../ui/PlainTable";
import { day } from "../../ui/words";
import { told } from "../../ui/maintenance/maintenance";

type Engine = Schemas["Engine"];

const alike = (a: Engine, b: Engine) =>
  a.family === b.family && a.fuel === b.fuel && a.rated_kw === b.rated_kw && a.rated_rpm === b.rated_rpm;

/** The engine beside it, alike in kind: its last figures by the other's. */
export function Twin({ engine, record }: { engine: Engine; record: Schemas["ServiceRecord"] }) {
  const yard = useYard();
  const aboard = yard.data?.craft.find((c) => c.engines.some((e) => e.engine.id === engine.id))?.engines ?? [];
  const twin = aboard.map((e) => e.engine).find((e) => e.id !== engine.id && alike(e, engine));
  return twin ? <Beside twin={twin} record={record} /> : null;
}

function Beside({ twin, record }: { twin: Engine; record: Schemas["ServiceRecord"] }) {
  const other = useServiceRecord(twin.id).data;
  const last = (r: Schemas["ServiceRecord"] | undefined, id: string) =>
    r?.trends.find((t) => t.id === id)?.points.at(-1);
  const rows = record.trends.filter((t) => last(record, t.id) ?? last(other, t.id));
  const cell = (t: Schemas["TrendView"], p?: Schemas["TrendPoint"]) =>
    p ? `${told(t.unit, p.value, p.error)}, ${day(p.at)}` : "never";
  return (
    <Box component="section" aria-label="Sister engine">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Beside it:{" "}
        <Box component={Link} to={`/engines/${twin.id}`} sx={{ color: "inherit", textUnderlineOffset: 4 }}>
          {twin.name}
        </Box>
      </Typography>
      <PlainTable head={["Last measured", "Its", twin.name]}>
        <tr>
          <td>Hours today</td>
          <td>{hoursOf(record)}</td>
          <td>{hoursOf(other)}</td>
        </tr>
        {rows.map((t) => (
          <tr key={t.id}>
            <td>{t.short}</td>
            <td>{cell(t, last(record, t.id))}</td>
            <td>{cell(t, last(other, t.id))}</td>
          </tr>
        ))}
      </PlainTable>
    </Box>
  );
}

const hoursOf = (r?: Schemas["ServiceRecord"]) => (r?.hours.known ? `${Math.round(r.hours.now)} h` : "not known");
