/** The wet exhaust: elbow, silencer, outlet, bucket; the risers and low points of a raw-cooled V. */
import { arc, box, circle, openWidth, sector, strewn, wave, type Point } from "./geometry";
import { Arrow, Disc, Drop, Look, Path, Say, type Draw } from "./pen";

/** Where the bend of the elbow turns round, and the walls of its gas passage. */
export const bend = { x: 44, y: 108, inner: 34, outer: 66 };

/** The elbow cut open: gas within, water round it, and what narrows the bore. */
export const elbow: Draw = ({ show }) => {
  const { x, y, inner, outer } = bend;
  const lost = (outer - inner - openWidth(outer - inner, show("narrowed"))) / 2;
  const holed = show("holed") > 0;
  return (
    <>
      <Path d={`${sector(x, y, outer + 6, outer + 22, 0, 90)}`} fill="raw" thick />
      <Path d={`${sector(x, y, outer, outer + 6, 0, 90)} ${sector(x, y, inner - 6, inner, 0, 90)}`} fill="metal" />
      <Path d={`${box(4, y - outer - 6, 40, 6)} ${box(4, y - inner, 40, 6)}`} fill="metal" />
      <Path d={box(4, 12, 10, 72)} fill="metal" thick />
      {lost > 0 && (
        <Path
          d={`${sector(x, y, inner, inner + lost, 14, 88)} ${sector(x, y, outer - lost, outer, 14, 88)}`}
          fill="crust"
          accent
          thick
        />
      )}
      <Arrow from={[18, 58]} to={[46, 58]} />
      {show("narrowed") === 0 && <Arrow from={[86, 82]} to={[94, 104]} />}
      <Path d={circle(114, 115, 2.5) + circle(122, 114, 2)} fill="raw" />
      {holed && (
        <>
          <Path d={arc(x, y, outer + 14, 38, 54)} thick accent />
          <Path d="M104 42 q10 -8 8 -18 M114 52 q12 -6 14 -18 M122 62 q12 -2 18 -12" thick accent />
          <Look x={105} y={55} r={15} />
        </>
      )}
    </>
  );
};

/** The silencer from the side: the water in it, and what chokes it. */
export const silencer: Draw = ({ show }) => {
  const top = 104 - 60 * show("level");
  return (
    <>
      <Path d={box(36, 42, 88, 64, 8)} fill="paper" thick />
      <Path d={`M37 ${top} H123 V98 Q123 105 116 105 H44 Q37 105 37 98Z`} fill="raw" bare />
      <Path d={wave(40, top, 80)} accent={show("level") > 0.6} />
      {show("choked") > 0 && (
        <>
          <Path d="M44 104 Q42 60 62 56 Q80 46 94 58 Q116 62 118 104Z" fill="crust" accent thick />
          <Path d="M58 84 l20 -14 l6 12" thick />
        </>
      )}
      <Path d="M4 20 H50 V70 H64 V6 H4Z" fill="paper" thick />
      <Path d="M98 96 V24 H154 M112 96 V38 H154" thick />
      {show("level") > 0.6 && <Path d="M52 68 V24 H8" thick accent dashed />}
      <Arrow from={[10, 13]} to={[46, 13]} />
      <Path d={box(72, 104, 14, 10, 2)} fill="metal" accent={show("drain") > 0} thick />
      {show("drain") > 0 && <Look x={79} y={108} />}
    </>
  );
};

/** The outlet in the ship's side: how much water comes, and whether it steams. */
export const outlet: Draw = ({ show }) => {
  const flow = show("flow");
  const throws = 20 + 74 * flow;
  return (
    <>
      <Path d="M4 4 H46 Q56 50 44 112 H4Z" fill="metal" thick />
      <Disc x={46} y={46} r={12} fill="ink" thick />
      {flow > 0 && (
        <Path
          d={
            `M48 ${46 - 11 * flow} Q${48 + throws * 0.7} ${40 - 6 * flow} ${52 + throws} 102 ` +
            `H${52 + throws * 0.55} Q${48 + throws * 0.4} 60 48 ${46 + 11 * flow}Z`
          }
          fill="raw"
          thick
        />
      )}
      {flow === 0 && show("steam") === 0 && <Path d="M66 34 L90 58 M90 34 L66 58" thick accent />}
      {show("steam") > 0 && (
        <Path
          d="M62 40 q10 -18 26 -10 q8 -16 24 -8 q18 -6 22 10 q14 6 4 18 q-10 10 -24 4 q-14 10 -28 2 q-20 4 -24 -16Z"
          fill="paper"
          thick
          accent
        />
      )}
      {show("sheen") > 0 && <Path d="M74 104 q14 -8 30 0 q18 8 40 -2" thick accent />}
      <Path d={`${wave(50, 106, 106)} ${wave(58, 115, 96)}`} />
    </>
  );
};

/** A bucket held under the outlet, and a watch. */
export const bucket: Draw = ({ view, show }) => (
  <>
    {view === "hose" ? (
      <Path d="M4 112 V40 Q4 15 34 15 V37 Q24 38 24 48 V112Z" fill="rubber" thick />
    ) : (
      <>
        <Path d="M4 8 H30 Q36 30 28 60 H4Z" fill="metal" thick />
        <Disc x={30} y={26} r={8} fill="ink" />
      </>
    )}
    <Path d={`M34 ${26 - 7 * show("flow")} Q76 24 82 60 H72 Q62 36 34 ${26 + 7 * show("flow")}Z`} fill="raw" thick />
    <Path d="M44 56 H100 L92 112 H52Z" fill="paper" thick />
    <Path d={`M${47.5} 80 H96.5 L92 112 H52Z`} fill="raw" />
    <Path d="M44 56 q28 -18 56 0" />
    <Disc x={130} y={66} r={22} fill="paper" thick />
    <Path d="M126 40 H134 M130 44 V40 M130 66 V50 M130 66 L140 72" thick />
  </>
);

/** A raw-cooled V from the front: risers, and the low points where sand and water stay. */
export const vee: Draw = ({ view, show }) => {
  const drain = view === "drain";
  return (
    <>
      <Path d={box(66, 26, 28, 60, 3)} fill="paper" thick turn="rotate(-42 80 92)" />
      <Path d={box(66, 26, 28, 60, 3)} fill="paper" thick turn="rotate(42 80 92)" />
      <Path d={box(56, 34, 10, 36, 3)} fill="raw" thick turn="rotate(-42 80 92)" />
      <Path d={box(94, 34, 10, 36, 3)} fill="raw" thick turn="rotate(42 80 92)" />
      <Path d={box(56, 80, 48, 34, 6)} fill="paper" thick />
      <Path
        d={
          "M24 58 V22 Q24 10 14 10 Q6 10 6 20 V62 M24 58 L14 62 V22 " +
          "M136 58 V22 Q136 10 146 10 Q154 10 154 20 V62 M136 58 L146 62 V22"
        }
        thick
      />
      {show("sand") > 0 && (
        <>
          <Path
            d={box(57, 35 + 34 * (1 - show("sand")), 8, 34 * show("sand"))}
            fill="crust"
            accent
            turn="rotate(-42 80 92)"
          />
          <Path
            d={box(95, 35 + 34 * (1 - show("sand")), 8, 34 * show("sand"))}
            fill="crust"
            accent
            turn="rotate(42 80 92)"
          />
        </>
      )}
      <Path d={circle(42, 74, 5) + circle(118, 74, 5) + circle(80, 112, 5)} fill="ink" bare />
      {(drain || show("sand") > 0) && (
        <>
          <Look x={42} y={74} />
          <Look x={118} y={74} />
        </>
      )}
      {drain && (
        <>
          <Drop x={40} y={88} />
          <Drop x={120} y={88} />
        </>
      )}
      {show("riser") > 0 && (
        <>
          <Look x={16} y={18} r={14} />
          <Look x={144} y={18} r={14} />
        </>
      )}
    </>
  );
};

/** The block with its drain at the lowest place, and what comes out of it. */
export const block: Draw = ({ show }) => {
  const dirt = show("dirt");
  return (
    <>
      <Path d="M16 14 H104 V30 H112 V78 H16Z" fill="paper" thick />
      <Path d={[24, 46, 68].map((x) => box(x, 34, 16, 34)).join("")} />
      <Path d="M18 68 H110 V77 H18Z" fill={dirt > 0 ? "crust" : "coolant"} bare />
      <Disc x={112} y={72} r={5} fill="metal" accent />
      <Path d="M116 72 Q132 74 132 92 H122 Q122 82 114 80Z" fill={dirt > 0 ? "crust" : "coolant"} accent={dirt > 0} />
      <Path d="M104 90 H154 L148 116 H110Z" fill="paper" thick />
      <Path d="M107 100 H151 L148 116 H110Z" fill={dirt > 0 ? "crust" : "coolant"} />
      {dirt > 0 && (
        <Path
          d={strewn(grains, 9)
            .map((p) => circle(p.x, p.y, 2))
            .join("")}
          fill="ink"
          bare
        />
      )}
      <Look x={112} y={72} />
    </>
  );
};
const grains: Point[] = Array.from({ length: 15 }, (_, i) => ({
  x: 112 + (i % 5) * 8,
  y: 104 + Math.floor(i / 5) * 4,
}));

/** Hands, lamp and dry paper along a joint. */
export const joint: Draw = ({ view, show }) => {
  const wet = show("wet") > 0;
  if (view === "flat")
    return (
      <>
        <Path d={box(10, 84, 140, 14)} fill="paper" thick />
        <Path d="M14 80 H146" dashed />
        <Path d={box(46, 58, 68, 18, 2)} fill="metal" thick />
        <Path d="M24 40 q56 -30 112 0 l-6 -11 M136 40 l-12 1" thick accent />
        <Say x={80} y={114}>
          glass
        </Say>
      </>
    );
  return (
    <>
      <Path d="M8 40 H70 V24 H80 V96 H70 V80 H8Z" fill="metal" thick />
      <Path d="M152 40 H90 V24 H80 V96 H90 V80 H152Z" fill="paper" thick />
      <Path d="M80 22 V98" thick accent={view === "gasket" || wet} />
      <Path d={`${box(64, 26, 32, 8, 2)} ${box(64, 86, 32, 8, 2)}`} fill="paper" thick />
      {wet && (
        <>
          <Drop x={80} y={100} />
          <Drop x={72} y={106} />
          <Look x={80} y={98} r={15} />
        </>
      )}
      {view === "paper" && <Path d="M104 88 l34 -4 l8 22 l-36 6Z" fill="paper" thick accent={wet} />}
      {view === "gasket" && <Arrow from={[80, 4]} to={[80, 20]} accent />}
    </>
  );
};
