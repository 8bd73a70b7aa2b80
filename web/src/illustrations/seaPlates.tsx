/** From the sea to the pump: intake, drive leg, seacock, strainer, hoses. */
import { box, circle, openRadius, openWidth, ring, segment, strewn, wave, type Point } from "./geometry";
import { Arrow, Bubbles, Disc, Drop, Look, Path, Turn, type Draw } from "./pen";

/** The grille in the hull, seen from the water. */
export const intake: Draw = ({ show }) => (
  <>
    <Path d={`${wave(6, 14, 148)} ${wave(6, 108, 148)}`} />
    <Disc x={80} y={61} r={40} fill="raw" thick />
    <Path d={[58, 69, 80, 91, 102].map((x) => `M${x} ${61 - drop(x)} V${61 + drop(x)}`).join(" ")} thick />
    {show("cover") > 0 && (
      <>
        <Path d={segment(80, 61, 40, show("cover"))} fill="weed" thick accent />
        <Path d={`M52 92 q-8 -20 2 -34 M104 96 q14 -22 4 -44 M80 100 q-8 -18 4 -30`} thick />
      </>
    )}
    <Path d={circle(80, 17, 2.5) + circle(80, 105, 2.5) + circle(36, 61, 2.5) + circle(124, 61, 2.5)} fill="ink" bare />
  </>
);
const drop = (x: number) => Math.sqrt(36 * 36 - (x - 80) ** 2);

/** A drive leg from the side: its ports, or its hose lifted and plugged. */
export const leg: Draw = ({ view, show }) => (
  <>
    <Path d="M36 4 V74 L50 66 V4" fill="metal" />
    <Path d="M50 22 H92 L88 46 H80 L84 76 H112 V82 H86 V88 H60 V82 H54 V76 H60 L56 46 H50Z" fill="paper" thick />
    <Path d="M56 88 Q48 94 56 102 H96 L106 96 L96 88Z M62 102 L68 116 H82 L86 102" fill="paper" thick />
    <Path d="M106 96 q10 -22 14 -4 q2 16 -14 4 q10 16 16 10" fill="metal" />
    <Path d={wave(6, 60, 30)} />
    <Path d={wave(118, 60, 36)} />
    {view === "lifted" ? (
      <>
        <Path d="M60 30 H26 V12" thick accent />
        <Path d={box(19, 2, 14, 12, 3)} fill="rubber" accent />
        <Arrow from={[12, 56]} to={[12, 14]} accent />
      </>
    ) : (
      <>
        <Path d="M64 79 V86 M69 79 V86 M74 79 V86 M79 79 V86" thick />
        <Look x={71} y={82} r={17} />
        {show("cover") > 0 && <Path d={box(60, 77, 4 + 20 * show("cover"), 11, 3)} fill="weed" accent />}
      </>
    )}
  </>
);

/** The seacock with its handle, or its bore from outside. */
export const seacock: Draw = ({ view, show }) =>
  view === "bore" ? <Bore {...shares(show)} /> : <Handle open={show("open")} />;
const shares = (show: (n: string) => number) => ({ open: show("open"), growth: show("growth") });

function Bore({ open, growth }: { open: number; growth: number }) {
  return (
    <>
      <Path d={ring(80, 60, 54, 42)} fill="metal" thick />
      <Disc x={80} y={60} r={42} fill="raw" thick />
      {open < 1 && <Path d={segment(80, 60, 42, 1 - open)} fill="paper" thick accent turn="rotate(-90 80 60)" />}
      {growth > 0 && <Path d={segment(80, 60, 42, growth)} fill="weed" thick accent />}
      {growth > 0 && <Path d={circle(66, 92, 5) + circle(84, 95, 6) + circle(98, 89, 4)} fill="paper" />}
    </>
  );
}

function Handle({ open }: { open: number }) {
  return (
    <>
      <Path d="M8 98 H62 V110 H8Z M98 98 H152 V110 H98Z" fill="metal" />
      <Path d={wave(8, 117, 148)} />
      <Path d="M66 8 V110 M94 8 V110" thick />
      <Path d="M67 74 H93 V110 H67Z" fill="raw" bare />
      {open > 0 && <Path d={`M${80 - 13 * open} 8 H${80 + 13 * open} V50 H${80 - 13 * open}Z`} fill="raw" bare />}
      <Path d={box(56, 42, 48, 36, 8)} fill="paper" thick />
      <g transform={`rotate(${90 * (1 - open)} 80 60)`}>
        <Path d={box(74, 8, 12, 56, 5)} fill={open < 1 ? "accent" : "ink"} bare />
      </g>
      <Disc x={80} y={60} r={7} fill="paper" thick />
      {open < 1 && <Turn x={80} y={60} r={48} from={20} to={70} back accent />}
    </>
  );
}

const holes: Point[] = Array.from({ length: 28 }, (_, i) => ({
  x: 55 + (i % 7) * 8.4,
  y: 26 + Math.floor(i / 7) * 22,
}));

/** The strainer whole, its basket, or its lid and seal. */
export const strainer: Draw = ({ view, show }) => {
  const debris = show("debris");
  if (view === "lid")
    return (
      <>
        <Path d="M40 64 V112 H120 V64" fill="raw" thick />
        <Path d="M34 58 H46 V66 H34Z M114 58 H126 V66 H114Z" fill="metal" thick />
        <Disc x={40} y={54} r={4.5} fill="rubber" accent={show("air") > 0} />
        <Disc x={120} y={54} r={4.5} fill="rubber" accent={show("air") > 0} />
        <Path d="M28 22 H132 V34 H28Z M72 22 V12 H88 V22" fill="paper" thick />
        <Arrow from={[142, 40]} to={[142, 60]} />
        {show("air") > 0 && (
          <>
            <Bubbles x={60} y={100} />
            <Bubbles x={96} y={106} />
            <Path d="M36 51 l4 3 l-5 4" thick accent />
            <Look x={40} y={54} />
          </>
        )}
      </>
    );
  if (view === "basket") {
    const top = 106 - 92 * debris;
    return (
      <>
        <Path d="M46 14 H114 L106 106 H54Z" fill="paper" thick />
        {debris > 0 && (
          <>
            <Path
              d={`M${54 - debris * 8} ${top} q17 -8 ${26 + debris * 8} 0 t${26 + debris * 8} 0 L106 106 H54Z`}
              fill="weed"
              accent
            />
            <Path
              d={`M62 ${106 - 60 * debris} l8 14 M92 ${106 - 50 * debris} l-10 12 M74 ${106 - 80 * debris} q8 6 14 0`}
              thick
            />
          </>
        )}
        <Path d={holes.map((p) => circle(p.x, p.y, 2)).join("")} />
        <Path d="M46 14 q34 -14 68 0" thick />
      </>
    );
  }
  return (
    <>
      <Path d="M8 78 H52 V92 H8Z M108 40 H152 V54 H108Z" fill="raw" thick />
      <Path d={box(50, 30, 60, 80, 8)} fill="raw" thick />
      <Path d={box(42, 20, 76, 12, 3)} fill="metal" thick />
      <Path d="M72 20 V10 H88 V20" thick />
      <Path d="M58 36 H102 V102 H58Z" dashed />
      {debris > 0 && <Path d={`M58 102 V${102 - 60 * debris} H102 V102Z`} fill="weed" accent />}
      {show("air") > 0 && <Bubbles x={70} y={90} />}
      <Arrow from={[12, 85]} to={[40, 85]} />
      <Arrow from={[118, 47]} to={[148, 47]} />
    </>
  );
};

/** A hose along its length, at its end, or cut across. */
export const hose: Draw = ({ view, show }) => {
  if (view === "bore")
    return <HoseBore open={Math.min(openRadius(43, show("narrowed")), openWidth(43, show("choked")))} />;
  if (view === "end") return <HoseEnd loose={show("loose")} />;
  const half = 26 * (1 - 0.82 * show("flat"));
  const [up, down] = [60 - half, 60 + half];
  return (
    <>
      <Path
        d={`M6 34 C50 34 50 ${up} 80 ${up} S110 34 154 34 V86 C110 86 110 ${down} 80 ${down} S50 86 6 86Z`}
        fill={show("burnt") > 0 ? "crust" : "paper"}
        thick
        accent={show("flat") > 0}
      />
      <Path d="M30 34 q8 26 0 52 M44 34.6 q8 25 0 50.8 M116 34.6 q8 25 0 50.8 M130 34 q8 26 0 52" />
      <Path d="M8 34 q9 26 0 52 q-9 -26 0 -52Z" fill="rubber" thick />
      <Path d="M152 34 q9 26 0 52" />
      {show("cracks") > 0 && (
        <Path
          d="M52 40 l4 9 l-5 7 l5 8 M76 36 l-4 9 l6 8 l-4 6 M100 40 l5 8 l-5 8 l3 7 M64 72 l5 9 M90 70 l-3 12"
          accent
        />
      )}
      {show("burnt") > 0 && <Path d="M60 40 q10 8 22 2 q8 -6 16 4 M56 78 q14 -8 26 0 q10 6 18 -2" thick accent />}
      {show("flat") > 0 && (
        <>
          <Arrow from={[80, 10]} to={[80, up - 3]} accent />
          <Arrow from={[80, 110]} to={[80, down + 3]} accent />
        </>
      )}
      {show("drip") > 0 && (
        <>
          <Drop x={80} y={88} />
          <Drop x={72} y={104} />
          <Look x={79} y={87} />
        </>
      )}
      {show("squeeze") > 0 && (
        <>
          <Arrow from={[80, 8]} to={[80, 32]} />
          <Arrow from={[80, 112]} to={[80, 88]} />
        </>
      )}
    </>
  );
};

/** A hose cut across, with what is left open of its bore: a radius. */
function HoseBore({ open }: { open: number }) {
  return (
    <>
      <Path d={ring(80, 60, 54, 43)} fill="rubber" thick />
      <Disc x={80} y={60} r={43} fill="paper" />
      {open < 43 && <Path d={ring(80, 60, 43, open)} fill="crust" thick accent />}
    </>
  );
}

function HoseEnd({ loose }: { loose: number }) {
  return (
    <>
      <Path d="M8 42 H100 V78 H8Z" fill="metal" thick />
      <Path d="M8 50 H100 V70 H8" fill="raw" />
      <Path d={`M52 ${30 - 5 * loose} H154 V42 H52Z M52 78 H154 V${90 + 5 * loose} H52Z`} fill="rubber" thick />
      <Path
        d={`${box(64, 22, 11, 76, 2)} ${box(84, 22 - 6 * loose, 11, 76 + 12 * loose, 2)}`}
        fill="paper"
        thick
        accent={loose > 0}
      />
      <Path d={`${box(62, 14, 15, 9, 2)} ${box(82, 14 - 6 * loose, 15, 9, 2)}`} fill="metal" />
      {loose > 0 && (
        <>
          <Path d="M52 84 l14 -3 l-8 7" thick accent />
          <Bubbles x={40} y={64} />
        </>
      )}
    </>
  );
}

/** A lump out of a hose between finger and thumb: crumbs are scale, a hard one is stone. */
export const sieve: Draw = ({ show }) => (
  <>
    <Path d="M12 16 H60 V34 H12Z" fill="raw" thick />
    <Path d="M60 18 Q92 20 92 50 H76 Q76 34 60 32Z" fill="raw" />
    <Path d="M34 58 H134 L118 84 H50Z" fill="paper" thick />
    <Path d="M44 66 H124 M48 74 H120 M56 58 L62 84 M72 58 L75 84 M88 58 V84 M104 58 L101 84 M118 58 L110 84" />
    <Path
      d={strewn(caught, Math.round(caught.length * show("pieces")))
        .map((p) => box(p.x, p.y, 9, 6, 2))
        .join("")}
      fill="rubber"
      accent
    />
    <Path d="M64 90 V108 M84 90 V112 M104 90 V108" dashed />
  </>
);
const caught: Point[] = Array.from({ length: 8 }, (_, i) => ({ x: 46 + (i % 4) * 19, y: 54 + Math.floor(i / 4) * 10 }));
