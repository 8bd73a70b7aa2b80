/** The raw-water pump: in section from the front and along its shaft, its impeller, belt, filter and seals. */
import { bladeArea, beltRuns, box, circle, countOf, path, polar, ring, sector, strewn, type Point } from "./geometry";
import { Arrow, Bubbles, Disc, Drop, Look, Path, Say, Turn, type Draw } from "./pen";

const [cx, cy] = [80, 62];

/** The pump cut open: cover off from the front, or along the shaft. */
export const rawPump: Draw = ({ view, show }) => {
  if (view === "side") return <PumpSide {...{ show }} />;
  return (
    <>
      <Path d={`${box(6, 22, 46, 22)} ${box(108, 22, 46, 22)}`} fill="raw" thick />
      <Path d={ring(cx, cy, 54, 44)} fill="metal" thick />
      <Disc x={cx} y={cy} r={44} fill="raw" />
      <Path d={sector(cx, cy, 34, 44, -42, 42)} fill="metal" thick />
      {show("wear") > 0 && <Path d="M66 34 l7 -4 M78 31 h8 M90 33 l7 4" accent />}
      {show("wear") > 0.5 && <Path d={sector(cx, cy, 34, 39, -30, 30)} fill="crust" thick accent />}
      {[0, 60, 120, 180, 240, 300].map((a) => {
        const near = a === 0;
        const bent = a === 60 || a === 300 || near;
        return (
          <Path key={a} d={bladeArea(cx, cy, 15, near ? 33 : bent ? 41 : 43, a, 9, bent ? 16 : 5)} fill="rubber" />
        );
      })}
      <Disc x={cx} y={cy} r={16} fill="rubber" thick />
      <Disc x={cx} y={cy} r={7} fill="metal" />
      <Turn x={cx} y={cy} r={27} from={120} to={215} back accent />
      <Arrow from={[8, 33]} to={[34, 33]} />
      <Arrow from={[118, 33]} to={[150, 33]} />
      {show("fill") > 0 && (
        <>
          <Path d="M20 4 H48 L38 14 V24 H30 V14Z" fill="paper" thick accent />
          <Bubbles x={120} y={40} />
        </>
      )}
      {show("sand") > 0 && <Path d={sector(cx, cy, 32, 44, 130, 230)} fill="crust" accent />}
    </>
  );
};

function PumpSide({ show }: { show: (n: string) => number }) {
  const ball = (x: number) => circle(x, 40, 5) + circle(x, 80, 5);
  return (
    <>
      <Path
        d="M30 26 H118 V36 H62 V52 H30Z M30 68 H62 V84 H74 V98 H70 V84 H62 M82 84 H118 V94 H82Z"
        fill="metal"
        thick
      />
      <Path d={box(20, 22, 9, 76)} fill="metal" thick accent={show("wet") > 0} />
      <Path d={box(30, 34, 28, 52)} fill="raw" />
      <Path d={box(32, 36, 24, 48, 3)} fill="rubber" thick />
      <Path d={box(58, 34, 5, 52)} fill="paper" />
      <Path d={box(32, 54, 118, 12)} fill="paper" thick />
      <Path d={`${box(64, 42, 8, 12)} ${box(64, 66, 8, 12)}`} fill="rubber" thick />
      <Path d={`${box(86, 42, 8, 12)} ${box(86, 66, 8, 12)}`} fill="rubber" thick />
      <Path d={ball(106)} fill="paper" thick accent={show("rough") > 0} />
      <Path d={box(132, 36, 14, 48, 2)} fill="paper" thick />
      <Path d="M76 84 V104 M82 84 V104" thick accent={show("drip") > 0} />
      {show("drip") > 0 && <Drop x={79} y={106} />}
      {show("wet") > 0 && (
        <>
          <Drop x={24} y={100} />
          <Drop x={15} y={60} />
        </>
      )}
      {show("rough") > 0 && (
        <>
          <Arrow from={[152, 60]} to={[152, 34]} accent />
          <Arrow from={[152, 60]} to={[152, 88]} accent />
        </>
      )}
      {show("at") > 0 && <Look x={79} y={98} />}
    </>
  );
}

const blades = 8;
const wheel = { x: 80, y: 60, hub: 19, tip: 52 };

/** The impeller: sound or torn, its hub, and how it comes out and goes in. */
export const impeller: Draw = (p) => {
  const { view, show } = p;
  if (view === "fit") return <Fit />;
  if (view === "puller") return <Puller />;
  if (view === "compare") return <Compare />;
  const goneOnes = new Set(strewn([0, 1, 2, 3, 4, 5, 6, 7], countOf(blades, show("gone"))));
  const slips = show("slips") > 0;
  return (
    <>
      {Array.from({ length: blades }, (_, i) => {
        const at = (360 * i) / blades;
        const torn = goneOnes.has(i);
        const short = show("cracked") > 0 && i % 3 === 0;
        return (
          <g key={i}>
            <Path
              d={bladeArea(wheel.x, wheel.y, wheel.hub, short ? 42 : wheel.tip, at, 11, 22 * show("set"))}
              fill={torn ? "none" : "rubber"}
              dashed={torn}
              thick
              accent={torn || short}
            />
            {!torn && show("hair") > 0 && i % 2 === 0 && <Crack at={at} deep={1} />}
            {!torn && show("cracked") > 0 && <Crack at={at} deep={2} />}
          </g>
        );
      })}
      <Disc x={80} y={60} r={wheel.hub} fill="rubber" thick />
      <Disc x={80} y={60} r={slips ? 13 : 10} fill="paper" thick accent={slips} />
      <Path d={box(76, 48, 8, 6)} fill="metal" />
      {slips && <Turn x={80} y={60} r={7} from={-130} to={130} accent />}
      {show("sand") > 0 && <Path d="M22 104 Q48 92 80 100 T140 104 V114 H22Z" fill="crust" accent />}
    </>
  );
};

function Crack({ at, deep }: { at: number; deep: number }) {
  const on = (a: number, r: number) => polar(wheel.x, wheel.y, r, at + a);
  const line = [on(-9, 24), on(-3, 28), on(0, 24), ...(deep > 1 ? [on(4, 30), on(9, 25)] : [])];
  return <Path d={path(line)} accent thick={deep > 1} />;
}

function Fit() {
  return (
    <>
      {Array.from({ length: blades }, (_, i) => (
        <Path key={i} d={bladeArea(58, 62, 16, 38, (360 * i) / blades, 11, 26)} fill="rubber" />
      ))}
      <Disc x={58} y={62} r={17} fill="rubber" thick />
      <Disc x={58} y={62} r={8} fill="paper" />
      <Path d={ring(58, 62, 46, 40)} fill="paper" thick accent />
      <Path d="M100 50 h14 v10 h-14z" fill="paper" thick accent />
      <Path d={box(54, 50, 8, 7)} fill="accent" bare />
      <Arrow from={[58, 30]} to={[58, 46]} accent />
      <Path d="M136 26 H154 V98 H136 V88 H146 V36 H136Z" fill="metal" thick />
      <Arrow from={[108, 76]} to={[132, 76]} />
    </>
  );
}

function Puller() {
  return (
    <>
      <Path d="M96 20 H150 V100 H96 V90 H140 V30 H96Z" fill="metal" thick />
      <Path d={box(100, 36, 34, 48, 3)} fill="rubber" thick />
      <Path d={box(90, 54, 56, 12)} fill="paper" />
      <Path d="M22 30 H44 V40 H98 V48 M22 90 H44 V80 H98 V72 M22 30 V90" thick />
      <Path d={box(6, 55, 84, 10)} fill="metal" thick accent />
      <Turn x={26} y={60} r={22} from={-60} to={60} accent />
      <Arrow from={[86, 18]} to={[54, 18]} />
    </>
  );
}

function Compare() {
  const one = (x: number, r: number) => (
    <>
      {Array.from({ length: 6 }, (_, i) => (
        <Path key={i} d={bladeArea(x, 54, 11, r, 60 * i, 13, 0)} fill="rubber" />
      ))}
      <Disc x={x} y={54} r={12} fill="rubber" thick />
      <Path d={box(x - 4, 46, 8, 5)} fill="metal" />
      <Disc x={x} y={54} r={5} fill="paper" />
    </>
  );
  return (
    <>
      {one(42, 32)}
      {one(118, 32)}
      <Path d="M10 98 H74 M10 92 V104 M74 92 V104 M86 98 H150 M86 92 V104 M150 92 V104" thick accent />
      <Say x={80} y={60}>
        =
      </Say>
    </>
  );
}

const big = { x: 48, y: 78, r: 28 };
const little = { x: 116, y: 36, r: 18 };

/** A belt round its pulleys, and how tight it is. */
export const belt: Draw = ({ show }) => {
  const [upper, lower] = beltRuns(big, little);
  if (!upper || !lower) return null;
  const slack = show("slack");
  const bow = (a: Point, b: Point, by: number) =>
    `M${a.x} ${a.y} Q${(a.x + b.x) / 2 + by * 0.4} ${(a.y + b.y) / 2 + by} ${b.x} ${b.y}`;
  return (
    <>
      <Disc {...big} fill="paper" thick />
      <Disc {...big} r={6} fill="metal" />
      <Disc {...little} fill="paper" thick />
      <Disc {...little} r={5} fill="metal" />
      {show("broken") > 0 ? (
        <Path d={`M${upper[0].x} ${upper[0].y} q14 -8 18 -22 M${upper[1].x} ${upper[1].y} q-10 8 -22 6`} thick accent />
      ) : (
        <Path d={bow(...upper, 13 * slack)} thick accent={slack > 0} />
      )}
      <Path d={bow(...lower, 20 * slack)} thick accent={slack > 0} />
      <Path d={`M${upper[0].x} ${upper[0].y} A28 28 0 1 0 ${lower[0].x} ${lower[0].y}`} thick />
      <Path d={`M${upper[1].x} ${upper[1].y} A18 18 0 0 1 ${lower[1].x} ${lower[1].y}`} thick />
      {show("glaze") > 0 && (
        <>
          <Path d="M62 40 l4 7 M70 36 l4 7 M78 31 l4 7 M86 27 l4 7" accent />
          <Path d="M30 110 h2 M38 113 h2 M48 110 h2 M58 114 h2 M66 110 h2 M44 116 h2" thick accent />
        </>
      )}
      {show("press") > 0 && <Arrow from={[64, 8]} to={[74, 34]} accent />}
      <Turn {...big} r={17} from={-60} to={70} />
    </>
  );
};

/** The filter after the pump, with what it caught. */
export const filter: Draw = ({ show }) => (
  <>
    <Path d="M8 26 H46 V42 H8Z M114 26 H152 V42 H114Z" fill="raw" thick />
    <Path d={box(44, 34, 72, 76, 10)} fill="raw" thick />
    <Path d={box(38, 16, 84, 20, 3)} fill="metal" thick />
    <Path d="M58 40 V100 H102 V40 M66 40 V100 M74 40 V100 M82 40 V100 M90 40 V100" />
    <Path
      d={strewn(pieces, countOf(pieces.length, show("debris")))
        .map((p) => box(p.x, p.y, 12, 7, 2))
        .join("")}
      fill="rubber"
      accent
      thick
    />
    <Arrow from={[12, 34]} to={[36, 34]} />
    <Arrow from={[122, 34]} to={[148, 34]} />
  </>
);
const pieces: Point[] = Array.from({ length: 12 }, (_, i) => ({
  x: 56 + (i % 3) * 17,
  y: 92 - Math.floor(i / 3) * 11,
}));

/** Two lip seals back to back with the drain between, each spring to its fluid; or one driven home. */
export const seals: Draw = ({ view }) =>
  view === "drive" ? (
    <>
      <Path d="M10 56 H52 V114 H10Z M108 56 H150 V114 H108Z" fill="metal" thick />
      <Path d="M54 74 H106 V88 H98 V82 H62 V88 H54Z" fill="rubber" thick accent />
      <Path d="M56 22 H104 V72 H56Z M72 8 H88 V22 H72Z" fill="paper" thick />
      <Arrow from={[128, 10]} to={[128, 48]} accent />
      <Path d="M48 36 H112" dashed />
    </>
  ) : (
    <>
      <Path d="M6 14 H154 V28 H88 V24 H72 V28 H6Z M6 92 H72 V112 H6Z M88 92 H154 V112 H88Z" fill="metal" thick />
      <Path d={box(6, 29, 56, 24)} fill="raw" bare />
      <Path d={box(98, 29, 56, 24)} fill="oil" bare />
      <Path d="M6 52 H154 V68 H6Z" fill="paper" thick />
      <Lip x={70} way={-1} />
      <Lip x={90} way={1} />
      <Path d="M72 92 V114 M88 92 V114" thick accent />
      <Path d={box(6, 68, 54, 24)} fill="raw" bare />
      <Path d={box(100, 68, 54, 24)} fill="oil" bare />
      <Arrow from={[80, 76]} to={[80, 112]} accent />
    </>
  );

/** One lip seal above and below the shaft; the spring lies on the side of the fluid. */
const Lip = ({ x, way }: { x: number; way: 1 | -1 }) => (
  <>
    <Path d={`M${x} 28 V34 L${x + 14 * way} 50 M${x} 92 V86 L${x + 14 * way} 70`} thick />
    <Path d={circle(x + 15 * way, 44, 4) + circle(x + 15 * way, 76, 4)} fill="accent" bare />
  </>
);
