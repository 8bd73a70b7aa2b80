/** Tube coolers and the exchanger: faces, tubes in section, passes, tests; the anti-siphon loop. */
import { box, circle, countOf, gridWithin, openRadius, ring, strewn, wave } from "./geometry";
import { Arrow, Bubbles, Disc, Drop, Look, Path, Say, Turn, type Draw } from "./pen";

/** The tubes of a face: places within the plate. */
export const face = gridWithin(80, 60, 42, 13);

/** A tube plate as it is seen with the cap off. */
export const tubePlate: Draw = ({ show }) => {
  const covered = strewn(face, countOf(face.length, show("covered")));
  const dark = strewn(face, countOf(face.length, show("dark")));
  return (
    <>
      <Disc x={80} y={60} r={54} fill="metal" thick />
      <Disc x={80} y={60} r={49} fill="paper" />
      <Path d={face.map((p) => circle(p.x, p.y, 4.4)).join("")} />
      <Path d={dark.map((p) => circle(p.x, p.y, 4.6)).join("")} fill="ink" bare />
      <Path d={covered.map((p) => box(p.x - 6, p.y - 5.5, 12, 11, 3)).join("")} fill="rubber" accent />
      {show("crumbs") > 0 && (
        <Path
          d={strewn(face, 7)
            .map((p) => box(p.x + 2, p.y + 2, 5, 4, 1))
            .join("")}
          fill="rubber"
          accent
        />
      )}
    </>
  );
};

/** Tubes cut across and along, with the crust that stands in them; or a drop of acid on it. */
export const tubes: Draw = ({ view, show }) => {
  const share = Math.max(show("crust"), 0.06 * show("film"));
  const open = openRadius(36, share);
  if (view === "drop") return <AcidDrop fizzes={show("fizz") > 0} />;
  return (
    <>
      <Path d={ring(44, 60, 42, 36)} fill="metal" thick />
      <Disc x={44} y={60} r={36} fill="raw" />
      {share > 0 && <Path d={ring(44, 60, 36, open)} fill="crust" thick={share > 0.1} accent />}
      <Path d="M96 18 H154 V24 H96Z M96 96 H154 V102 H96Z" fill="metal" thick />
      <Path d={box(96, 24, 58, 72)} fill="raw" bare />
      {share > 0 && (
        <>
          <Path d={box(96, 24, 58, 36 - open)} fill="crust" accent />
          <Path d={box(96, 60 + open, 58, 36 - open)} fill="crust" accent />
        </>
      )}
      <Arrow from={[104, 60]} to={[146, 60]} />
    </>
  );
};

function AcidDrop({ fizzes }: { fizzes: boolean }) {
  return (
    <>
      <Path d={ring(80, 82, 34, 27)} fill="metal" thick />
      <Path d={ring(80, 82, 27, 20)} fill="crust" />
      <Disc x={80} y={82} r={20} fill="paper" />
      <Path d="M112 4 L124 12 L104 38 L96 44 L98 34Z" fill="paper" thick />
      <Drop x={94} y={46} fill="oil" />
      {fizzes && (
        <>
          <Bubbles x={62} y={56} />
          <Bubbles x={78} y={48} />
          <Bubbles x={98} y={58} />
        </>
      )}
    </>
  );
}

/** The exchanger in section: caps, divider, seals and passes; apart, or under test. */
export const exchanger: Draw = ({ view, show }) => {
  const gone = show("displaced") > 0;
  if (view === "test") return <PressureTest fails={show("fails") > 0} />;
  if (view === "apart") return <Apart />;
  return (
    <>
      <Path d={box(38, 28, 84, 64)} fill="coolant" thick />
      <Path d={[38, 50, 62, 74].map((y) => box(34, y, 92, 8)).join("")} fill="raw" />
      <Path
        d="M32 24 H20 Q10 24 10 36 V84 Q10 96 20 96 H32Z M128 24 H140 Q150 24 150 36 V84 Q150 96 140 96 H128Z"
        fill="raw"
        thick
      />
      <Path d={gone ? "M12 50 L28 66" : "M10 60 H34"} thick accent={gone} />
      <Path
        d={circle(35, 26, 3.4) + circle(35, 94, 3.4) + circle(125, 26, 3.4) + circle(125, 94, 3.4)}
        fill="rubber"
        accent={show("seals") > 0}
      />
      <Path d="M52 28 V14 H66 V28 M94 92 V106 H108 V92" thick />
      {gone ? <Arrow from={[18, 90]} to={[22, 34]} accent /> : <Arrow from={[44, 78]} to={[120, 78]} />}
      {!gone && <Arrow from={[120, 42]} to={[44, 42]} />}
      {gone && <Look x={22} y={58} r={18} />}
    </>
  );
};

function Apart() {
  return (
    <>
      <Path d="M30 28 H18 Q6 28 6 40 V80 Q6 92 18 92 H30Z" fill="metal" thick />
      <Path d="M6 60 H30" thick />
      <Path d={`${box(40, 28, 7, 64, 3)} ${box(52, 34, 7, 52, 3)}`} fill="rubber" accent />
      <Path d={box(66, 30, 60, 60)} fill="paper" thick />
      <Path d="M66 40 H126 M66 50 H126 M66 60 H126 M66 70 H126 M66 80 H126" />
      <Path d="M134 28 H142 Q154 28 154 40 V80 Q154 92 142 92 H134Z" fill="metal" thick />
      <Path d="M10 112 H148" dashed />
      <Path d="M18 20 l-6 -8 M142 20 l6 -8" thick accent />
    </>
  );
}

function PressureTest({ fails }: { fails: boolean }) {
  return (
    <>
      <Path d="M10 46 H150 V112 H10Z" fill="raw" thick />
      <Path d={wave(12, 46, 136)} />
      <Path d={box(30, 62, 100, 34, 6)} fill="metal" thick />
      <Path d={`${box(22, 70, 10, 18)} ${box(128, 70, 10, 18)}`} fill="rubber" thick />
      <Path d="M80 62 V34" thick />
      <Disc x={80} y={20} r={15} fill="paper" thick />
      <Path d={fails ? "M80 20 L69 26" : "M80 20 L89 11"} thick accent={fails} />
      {fails && <Bubbles x={104} y={62} />}
      {fails && <Look x={106} y={58} r={16} />}
    </>
  );
}

/** The loop above the waterline with its valve, or the valve in the hand. */
export const antisiphon: Draw = ({ view, show }) =>
  view === "valve" ? (
    <>
      <Path d="M52 112 V58 H44 V34 H116 V58 H108 V112" fill="paper" thick />
      <Path d="M58 62 H102" thick accent={show("stuck") > 0} />
      <Path d="M62 62 Q80 46 98 62" fill="rubber" thick accent={show("stuck") > 0} />
      <Path d={box(72, 24, 16, 10)} fill="paper" />
      {show("stuck") > 0 ? (
        <>
          <Path d="M66 78 L94 106 M94 78 L66 106" thick accent />
          <Drop x={80} y={4} />
        </>
      ) : (
        <Arrow from={[80, 6]} to={[80, 50]} />
      )}
      {show("stuck") > 0 ? null : <Arrow from={[80, 70]} to={[80, 104]} />}
    </>
  ) : (
    <>
      <Path d="M36 112 V46 Q36 22 60 22 H100 Q124 22 124 46 V112" thick />
      <Path d="M52 112 V48 Q52 38 62 38 H98 Q108 38 108 48 V112" thick />
      <Path d={box(70, 6, 20, 18, 3)} fill="metal" thick accent={show("stuck") > 0} />
      <Path d={`${wave(4, 86, 26)} ${wave(58, 86, 44)} ${wave(130, 86, 26)}`} />
      <Arrow from={[44, 106]} to={[44, 60]} />
      <Arrow from={[116, 58]} to={[116, 104]} />
      <Look x={80} y={15} r={17} />
    </>
  );

/** A cooler's body under hose and gauge: flushed against the flow, or tested. */
export const backFlush: Draw = () => (
  <>
    <Path d={box(34, 40, 92, 40, 12)} fill="raw" thick />
    <Path d="M4 52 H34 V68 H4Z M126 52 H156 V68 H126Z" fill="raw" thick />
    <Path d="M50 26 H108 l-8 -7 M108 26 l-8 7" dashed />
    <Say x={80} y={17}>
      its flow
    </Say>
    <Arrow from={[150, 60]} to={[98, 60]} accent />
    <Arrow from={[74, 60]} to={[12, 60]} accent />
    <Path d={box(12, 74, 9, 7, 2) + box(24, 84, 8, 6, 2) + box(8, 92, 9, 7, 2)} fill="rubber" accent />
    <Path d="M2 104 H44" thick />
    <Turn x={80} y={60} r={13} from={-60} to={60} back />
  </>
);
