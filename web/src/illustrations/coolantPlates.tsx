/** The coolant's side: header tank and cap, thermostat, circulation pump, the coolant itself. */
import { box, circle, countOf, openWidth, path, polar, ring, strewn, wave } from "./geometry";
import { Arrow, Bubbles, Disc, Drop, Look, Path, Say, Turn, type Draw } from "./pen";

/** The header tank with its mark, its cap, or a bleed point. */
export const header: Draw = ({ view, show }) => {
  if (view === "cap") return <Cap weak={show("weak") > 0} />;
  const level = openWidth(show("level"), show("missing"));
  const top = 106 - 66 * level;
  const low = level < 0.7;
  return (
    <>
      <Path d="M30 38 H64 V22 H96 V38 H130 V106 H30Z" fill="paper" thick />
      {level > 0 && <Path d={`M31 ${top} H129 V105 H31Z`} fill="coolant" bare />}
      <Path d={level > 0 ? wave(32, top, 94) : ""} accent={low} />
      <Path d="M22 46 H42" thick />
      <Path d={view === "open" ? box(104, 8, 40, 12, 3) : box(58, 10, 44, 13, 3)} fill="metal" thick />
      {low && <Arrow from={[46, 48]} to={[46, top - 3]} accent />}
      {show("bubbles") > 0 && (
        <>
          <Bubbles x={70} y={76} />
          <Bubbles x={92} y={64} />
        </>
      )}
      {view === "bleed" && (
        <>
          <Path d={box(126, 46, 20, 10, 2)} fill="metal" thick accent />
          <Look x={138} y={50} />
        </>
      )}
    </>
  );
};

function Cap({ weak }: { weak: boolean }) {
  return (
    <>
      <Path d="M24 14 H106 V40 H98 V28 H32 V40 H24Z" fill="metal" thick />
      <Path d="M36 44 H44 V92 H54 V98 H44 V116 H36Z M94 44 H86 V92 H76 V98 H86 V116 H94Z" fill="metal" thick />
      <Path d="M56 32 L74 40 L56 48 L74 56 L56 64 L74 72 L65 78" thick accent={weak} />
      <Path d={box(48, weak ? 76 : 82, 34, 8, 3)} fill="rubber" thick accent={weak} />
      <Disc x={130} y={60} r={22} fill="paper" thick />
      <Path d="M114 68 A18 18 0 0 1 146 68" />
      <Path d={weak ? "M130 60 L117 54" : "M130 60 L143 54"} thick accent={weak} />
      {weak && <Arrow from={[65, 116]} to={[65, 90]} accent />}
    </>
  );
}

/** The thermostat in its housing, or hung in a pot beside a thermometer. */
export const thermostat: Draw = ({ view, show }) => {
  const lift = openWidth(15 * show("lift"), show("short"));
  if (view === "pot")
    return (
      <>
        <Path d="M24 40 V100 Q24 110 34 110 H126 Q136 110 136 100 V40" fill="paper" thick />
        <Path d="M26 52 H134 V100 Q134 108 126 108 H34 Q26 108 26 100Z" fill="raw" bare />
        <Path d="M70 4 V58" />
        <Valve x={70} y={62} lift={lift} odd={show("odd") > 0} />
        <Path d={box(112, 8, 9, 84, 4)} fill="paper" thick />
        <Path d={`M116.5 90 V${70 - 50 * show("hot")}`} thick accent />
        <Path d="M121 24 h6 M121 40 h6 M121 56 h6" />
        <Bubbles x={44} y={100} />
      </>
    );
  return (
    <>
      <Path d="M8 62 H152 V118 H8Z" fill="coolant" bare />
      <Path d="M8 62 H54 M106 62 H152" thick />
      <Path d="M40 52 Q40 16 80 14 H152 V34 H92 Q112 38 116 52Z" fill={show("lift") > 0 ? "coolant" : "paper"} thick />
      <Path d={`${box(28, 52, 26, 10)} ${box(106, 52, 26, 10)}`} fill="metal" thick />
      <Path d={box(52, 54, 56, 6)} fill="rubber" accent={view === "apart"} />
      <Valve x={80} y={60} lift={lift} odd={show("odd") > 0} />
      {show("lift") > 0 && <Arrow from={[112, 24]} to={[146, 24]} />}
      {view === "apart" && <Arrow from={[80, 50]} to={[80, 18]} accent />}
    </>
  );
};

/** The valve: a plate on its seat, and the capsule that lifts it off. */
function Valve({ x, y, lift, odd }: { x: number; y: number; lift: number; odd: boolean }) {
  return (
    <>
      <Path d={`M${x - 26} ${y} H${x - 14} M${x + 14} ${y} H${x + 26}`} thick />
      <Path d={box(x - 15, y + lift, 30, 5)} fill="metal" thick accent={odd} />
      <Path d={box(x - 6, y + 5 + lift, 12, 24 - lift / 2, 4)} fill="paper" thick />
      <Path d={`M${x - 22} ${y + 3} L${x - 10} ${y + 36} H${x + 10} L${x + 22} ${y + 3}`} />
    </>
  );
}

/** The circulation pump along its shaft, or its rotor from the front. */
export const circPump: Draw = ({ view, show }) => {
  if (view === "rotor") return <Rotor eroded={show("eroded")} />;
  const drip = show("drip") > 0;
  return (
    <>
      <Path d={box(8, 26, 16, 68, 2)} fill="paper" thick />
      <Path d="M30 34 H88 V20 H118 V100 H88 V86 H68 V104 H60 V86 H30Z" fill="metal" thick />
      <Path d={box(90, 24, 62, 72)} fill="coolant" thick />
      <Path d={box(24, 53, 104, 14)} fill="paper" thick />
      <Path d={circle(42, 44, 5) + circle(42, 76, 5)} fill="paper" thick />
      <Path
        d={`${box(52, 40, 7, 13)} ${box(52, 67, 7, 13)} ${box(74, 40, 10, 13)} ${box(74, 67, 10, 13)}`}
        fill="rubber"
        thick
      />
      <Path d="M112 32 L122 53 V67 L112 88 H128 L132 67 V53 L128 32Z" fill="metal" thick />
      <Path d="M64 86 V108" thick accent={drip || show("at") > 0} />
      {drip && <Drop x={64} y={106} fill="coolant" />}
      {drip && <Path d="M30 104 h4 M38 110 h4 M20 98 h4 M78 112 h4" thick accent />}
      {show("at") > 0 && <Look x={64} y={102} />}
    </>
  );
};

function Rotor({ eroded }: { eroded: number }) {
  return (
    <>
      <Path d="M132 20 H154 V44 H128 A54 54 0 1 1 112 16" thick />
      {Array.from({ length: 6 }, (_, i) => {
        const at = 60 * i;
        const out = 16 + openWidth(30, eroded);
        const line = [polar(74, 64, 14, at), polar(74, 64, (14 + out) / 2, at + 14), polar(74, 64, out, at + 34)];
        return <Path key={i} d={path(line)} thick accent={eroded > 0} />;
      })}
      {eroded > 0 && <Path d={ring(74, 64, 46, 45.5)} dashed />}
      <Disc x={74} y={64} r={14} fill="metal" thick />
      <Turn x={74} y={64} r={51} from={150} to={210} />
    </>
  );
}

/** A little coolant in a clear jar, or a drop of it on the tester. */
export const jar: Draw = ({ view, show }) =>
  view === "tester" ? (
    <>
      <Disc x={80} y={60} r={52} fill="paper" thick />
      <Path
        d={`M34 ${96 - 72 * show("strength")} H126 V84 Q106 112 80 112 Q54 112 34 84Z`}
        fill="coolant"
        accent={show("strength") > 0.6}
      />
      <Path d="M104 30 H120 M108 48 H120 M104 66 H120 M108 84 H120" thick />
      <Say x={66} y={36}>
        60 %
      </Say>
      <Path d="M44 40 H96" dashed />
    </>
  ) : (
    <>
      <Path
        d="M52 10 H108 V24 H102 V32 Q118 38 118 54 V100 Q118 110 108 110 H52 Q42 110 42 100 V54 Q42 38 58 32 V24 H52Z"
        fill="paper"
        thick
      />
      <Path
        d="M43 52 H117 V100 Q117 109 108 109 H52 Q43 109 43 100Z"
        fill={show("dirt") > 0 ? "crust" : "coolant"}
        accent={show("dirt") > 0}
      />
      {show("dirt") > 0 && (
        <>
          <Path d="M46 92 Q80 80 114 92 V100 Q114 106 108 106 H52 Q46 106 46 100Z" fill="ink" bare />
          <Path d={circle(64, 66, 3) + circle(90, 72, 4) + circle(76, 80, 3)} fill="ink" bare />
        </>
      )}
      <Path d="M56 60 V88" thick />
    </>
  );

/** The tester of combustion gas over the neck of the header: its fluid turns. */
export const gasTester: Draw = ({ show }) => (
  <>
    <Path d="M30 84 H64 V74 H96 V84 H130 V116 H30Z" fill="coolant" thick />
    <Path d="M66 76 L70 66 H90 L94 76Z" fill="rubber" thick />
    <Path d={box(68, 14, 24, 52, 4)} fill="paper" thick />
    <Path d={box(69, 34, 22, 30)} fill={show("gas") > 0 ? "oil" : "raw"} accent={show("gas") > 0} />
    <Bubbles x={80} y={58} />
    <Path d="M80 14 V8 H112 Q136 8 136 30 V40" thick />
    <Path d={box(122, 40, 28, 30, 12)} fill="rubber" thick />
    {show("gas") > 0 && <Bubbles x={56} y={108} />}
  </>
);

/** Cylinders side by side: compression as bars, low where two neighbours let it pass. */
export const cylinders: Draw = ({ show }) => (
  <>
    <Path d="M8 112 H152" thick />
    {[0, 1, 2, 3].map((i) => {
      const low = show("low") > 0 && (i === 1 || i === 2);
      const height = low ? 40 : 84 - 4 * (i % 2);
      return (
        <Path
          key={i}
          d={box(18 + 34 * i, 112 - height, 24, height)}
          fill={low ? "crust" : "metal"}
          thick
          accent={low}
        />
      );
    })}
    <Path d="M8 26 H152" dashed />
    {show("low") > 0 && <Path d="M86 60 q-5 -8 0 -14 t0 -14" thick accent />}
  </>
);

/** A rod of zinc in its plug: whole, or eaten. */
export const anode: Draw = ({ show }) => {
  const left = openWidth(84, show("eaten"));
  return (
    <>
      <Path d="M10 40 H32 V30 H46 V90 H32 V80 H10Z" fill="metal" thick />
      <Path d={box(46, 46, left, 28, 3)} fill="paper" thick accent={show("eaten") > 0} />
      {show("eaten") > 0 && <Path d={box(46, 46, 84, 28, 3)} dashed />}
      <Path
        d={strewn([0, 1, 2, 3, 4, 5], countOf(6, show("eaten")))
          .map((i) => circle(52 + (left - 14) * (i / 6), 52 + (i % 3) * 8, 2))
          .join("")}
      />
      <Turn x={30} y={46} r={26} from={-55} to={55} />
    </>
  );
};
