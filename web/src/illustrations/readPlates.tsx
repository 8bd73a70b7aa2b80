/** What is read and seen: gauges, oil, bilge, speed, the sister; screws and their order. */
import { arc, box, circle, path, polar, wave } from "./geometry";
import { Arrow, Disc, Drop, Look, Path, Say, Turn, type Draw } from "./pen";

function Dial({ x, y, r, at, odd }: { x: number; y: number; r: number; at: number; odd?: boolean }) {
  const tip = polar(x, y, r - 8, -120 + 240 * at);
  return (
    <>
      <Disc x={x} y={y} r={r} fill="paper" thick />
      <Path d={arc(x, y, r - 5, -120, 120)} />
      <Path d={path([{ x, y }, tip])} thick accent={odd} />
      <Disc x={x} y={y} r={3.5} fill="ink" bare />
    </>
  );
}

/** The gauge beside a thermometer held where its sender sits; the alarm's switch; the exhaust's sensor. */
export const gauge: Draw = ({ view, show }) => {
  const off = show("off");
  if (view === "alarm")
    return (
      <>
        <Path d={box(14, 76, 132, 36, 4)} fill="metal" thick />
        <Path d="M68 76 V62 H72 V50 H88 V62 H92 V76" fill="paper" thick />
        <Path d="M80 50 Q80 24 112 24" thick />
        <Path d="M112 12 L134 4 V44 L112 36Z" fill="paper" thick accent={off > 0} />
        {off > 0 && <Path d="M142 12 q8 12 0 24 M150 6 q12 18 0 36" thick accent />}
        <Path d={off > 0 ? "M24 18 l20 20 M44 18 l-20 20" : "M22 28 l10 10 l20 -24"} thick accent={off > 0} />
        <Look x={80} y={64} r={19} />
      </>
    );
  return (
    <>
      <Dial x={42} y={42} r={34} at={0.5 + 0.42 * off} odd={off > 0} />
      <Path d="M42 76 V96 H98" />
      <Path
        d={view === "exhaust" ? "M86 84 Q124 84 130 118 M86 112 Q100 112 104 118" : box(86, 84, 68, 30, 4)}
        fill="metal"
        thick
      />
      <Path d="M100 84 V72 H112 V84" fill="paper" thick />
      <Path d="M118 80 L138 22 M124 82 L146 26 M138 22 q8 -6 8 4" fill="paper" thick />
      <Path d={box(120, 6, 36, 20, 3)} fill="paper" thick />
      <Path d={off > 0 ? "M126 20 h6 M134 20 h6" : "M126 20 h10 M138 14 h10"} thick />
      <Look x={110} y={80} r={12} />
    </>
  );
};

/** A gauge teed into a hose: vacuum before the pump, pressure after it. */
export const teed: Draw = ({ view, show }) => {
  const odd = show("odd") > 0;
  const before = view === "vacuum"; // the gauge stands before the pump
  const at = before ? 132 : 28;
  return (
    <>
      <Path d="M4 78 H156 V102 H4Z" fill="raw" thick />
      <Path d={box(66, 72, 28, 36, 3)} fill="metal" thick />
      <Path d="M80 72 V58" thick />
      <Dial x={80} y={34} r={28} at={show("reads")} odd={odd} />
      <Arrow from={[before ? 10 : 104, 90]} to={[before ? 52 : 148, 90]} />
      <Disc x={at} y={90} r={22} fill="metal" thick />
      <Disc x={at} y={90} r={16} fill="paper" />
      <Turn x={at} y={90} r={8} from={-110} to={110} />
    </>
  );
};

/** The dipstick, wiped and dipped again. */
export const dipstick: Draw = ({ show }) => {
  const level = show("level");
  const milky = show("milky") > 0;
  return (
    <>
      <Path d="M46 8 q14 -10 20 4 q4 14 -12 14" thick />
      <Path d={box(40, 26, 24, 88, 6)} fill="paper" thick />
      <Path
        d={box(41, 112 - 80 * level, 22, 80 * level, 5)}
        fill={milky ? "paper" : "oil"}
        accent={milky || level > 0.75}
        thick={milky}
      />
      {milky && (
        <Path d={Array.from({ length: 5 }, (_, i) => circle(46 + (i % 3) * 6, 68 + i * 8, 2.4)).join("")} accent />
      )}
      <Path d="M34 56 H70 M34 88 H70" thick />
      <Path d={level > 0.75 ? "M84 100 V44 l-7 9 M84 44 l7 9" : ""} thick accent />
      <Path d="M104 60 H150 L144 112 H110Z" fill="paper" />
      <Path d="M107 84 H147 L144 112 H110Z" fill={milky ? "coolant" : "oil"} accent={milky} />
    </>
  );
};

/** Water in the bilge by its kind: what is in it, and paper laid under to see where it comes from. */
export const bilge: Draw = ({ show }) => {
  const y = 108 - 46 * show("level");
  const half = (v: number) => 66 * Math.sqrt(Math.max(0, (112 - v) / 76));
  const stuff = show("coolant") > 0 ? "coolant" : show("rust") > 0 ? "crust" : "raw";
  return (
    <>
      <Path d="M6 20 Q18 94 80 112 Q142 94 154 20" thick />
      {show("level") > 0 && (
        <Path
          d={`M${80 - half(y)} ${y} H${80 + half(y)} Q120 100 80 111 Q40 100 ${80 - half(y)} ${y}Z`}
          fill={stuff}
          accent
        />
      )}
      <Path d="M46 44 H114 V20 H46Z" fill="paper" thick />
      <Path d="M46 44 L38 58 M114 44 L122 58" thick />
      {show("level") > 0 && (
        <>
          <Drop x={80} y={48} fill={stuff} />
          <Drop x={90} y={60} fill={stuff} />
        </>
      )}
      {show("spray") > 0 && <Path d="M24 40 q56 -40 112 0 M20 50 h3 M32 34 h3 M124 36 h3 M136 48 h3" thick accent />}
      {show("level") === 0 && <Path d="M62 98 L80 92 L98 98 L80 104Z" fill="paper" thick />}
    </>
  );
};

/** Top speed on a proved tachometer against what it is rated for. */
export const tacho: Draw = ({ show }) => {
  const at = polar(80, 66, 48, 78);
  const out = polar(80, 66, 60, 78);
  return (
    <>
      <Dial x={80} y={66} r={50} at={0.825 - 0.25 * show("short")} odd={show("short") > 0} />
      <Path d={path([at, out])} thick accent />
      <Path
        d={[0, 1, 2, 3, 4, 5, 6]
          .map((i) => path([polar(80, 66, 40, -120 + 40 * i), polar(80, 66, 45, -120 + 40 * i)]))
          .join(" ")}
      />
      {show("short") > 0 && <Turn x={80} y={66} r={57} from={22} to={70} accent />}
    </>
  );
};

/** Two engines side by side, each with what it gives at its outlet. */
export const sister: Draw = ({ show }) => {
  const same = show("same") > 0;
  const one = (x: number, hot: boolean) => (
    <>
      <Path d={`M${x} 50 H${x + 50} V90 H${x}Z M${x + 8} 50 V38 H${x + 42} V50`} fill="paper" thick accent={hot} />
      <Dial x={x + 25} y={70} r={15} at={hot ? 0.95 : 0.5} odd={hot} />
      <Path d={`M${x + 25} 90 V104`} thick />
      <Path
        d={hot ? `M${x + 16} 30 q5 -6 0 -12 M${x + 26} 30 q5 -6 0 -12 M${x + 36} 30 q5 -6 0 -12` : ""}
        thick
        accent
      />
    </>
  );
  return (
    <>
      {one(18, true)}
      {one(92, same)}
      <Path d={wave(6, 110, 148)} />
    </>
  );
};

/** Screws on a ring in the order in which they are tightened: across, never a neighbour; or nuts of a flange. */
export const screws: Draw = ({ view }) => {
  const n = view === "four" ? 4 : 6;
  const at = (i: number) => polar(80, 60, 42, (360 * i) / n);
  const turnOf = (i: number) => crossOrder(n).indexOf(i) + 1;
  return (
    <>
      <Disc x={80} y={60} r={56} fill="metal" thick />
      <Disc x={80} y={60} r={25} fill="paper" />
      <Path d={path(crossOrder(n).map(at))} dashed />
      {Array.from({ length: n }, (_, i) => (
        <g key={i}>
          <Path d={hexagon(at(i).x, at(i).y, 12)} fill="paper" thick />
          <Say x={at(i).x} y={at(i).y + 4.5}>
            {turnOf(i)}
          </Say>
        </g>
      ))}
      <Turn x={80} y={60} r={13} from={-120} to={120} accent />
    </>
  );
};

/** The usual cross, as the core has it: of four the two pairs, of six 1-4-2-5-3-6 counted round. */
export const crossOrder = (n: number) => (n === 4 ? [0, 2, 1, 3] : [0, 3, 1, 4, 2, 5]);

const hexagon = (x: number, y: number, r: number) =>
  path(
    [0, 60, 120, 180, 240, 300].map((a) => polar(x, y, r, a)),
    true,
  );

/** An opened port of the oil side under its cover: nothing falls in. */
export const oilPort: Draw = () => (
  <>
    <Path d="M8 60 H52 V42 H108 V60 H152 V112 H8Z" fill="metal" thick />
    <Path d={box(66, 42, 28, 60)} fill="oil" thick />
    <Path d="M56 40 Q58 22 80 22 Q102 22 104 40Z" fill="rubber" thick accent />
    <Arrow from={[80, 2]} to={[80, 18]} accent />
  </>
);

/** Readings over time: a strip with two curves, and where it was read. */
export const logger: Draw = () => (
  <>
    <Path d="M10 12 H150 V104 H10Z" fill="paper" thick />
    <Path d="M10 35 H150 M10 58 H150 M10 81 H150 M38 12 V104 M66 12 V104 M94 12 V104 M122 12 V104" />
    <Path d="M10 96 C34 92 40 44 66 40 S110 36 150 34" thick accent />
    <Path d="M10 98 C40 96 50 82 76 80 S120 78 150 76" thick />
    <Disc x={94} y={37} r={5} fill="paper" thick accent />
    <Path d="M10 112 H150 M38 108 v8 M66 108 v8 M94 108 v8 M122 108 v8" />
  </>
);

/** A box with wires to its senders, telling a phone what they read. */
export const gateway: Draw = () => (
  <>
    <Path d={box(8, 84, 96, 28, 4)} fill="metal" thick />
    <Path d={`${box(18, 74, 12, 12)} ${box(50, 74, 12, 12)} ${box(82, 74, 12, 12)}`} fill="paper" thick />
    <Path d="M24 74 V52 H40 M56 74 V56 M88 74 V52 H72" thick />
    <Path d={box(36, 22, 40, 34, 5)} fill="paper" thick />
    <Path d="M44 32 H60 M44 40 H68 M44 48 H56" />
    <Path d="M84 30 q10 8 0 18 M92 24 q18 15 0 30" thick accent />
    <Path d={box(116, 14, 34, 58, 6)} fill="paper" thick />
    <Path d="M122 26 H144 M122 36 H138 M122 46 H144 M130 64 H136" thick />
  </>
);

/** Mixed before it goes in; litres counted in and out. */
export const vessel: Draw = ({ show }) => (
  <>
    <Path d="M40 12 H120 L112 110 H48Z" fill="paper" thick />
    <Path
      d={`M${41 + 7 * (1 - show("level"))} ${110 - 88 * show("level")} H${119 - 7 * (1 - show("level"))} L112 110 H48Z`}
      fill="coolant"
    />
    <Path d="M46 88 H58 M45 66 H57 M44 44 H56" thick />
    <Path d="M40 12 q40 -14 80 0" />
    <Turn x={80} y={74} r={16} from={-110} to={110} />
  </>
);
