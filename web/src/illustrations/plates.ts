/** Every plate by the id under which the drawings of the catalogue name it. */
import { antisiphon, backFlush, exchanger, tubePlate, tubes } from "./coolerPlates";
import { anode, circPump, cylinders, gasTester, header, jar, thermostat } from "./coolantPlates";
import { block, bucket, elbow, joint, outlet, silencer, vee } from "./exhaustPlates";
import type { Draw } from "./pen";
import { belt, filter, impeller, rawPump, seals } from "./pumpPlates";
import { bilge, dipstick, gateway, gauge, logger, oilPort, screws, sister, tacho, teed, vessel } from "./readPlates";
import { hose, intake, leg, seacock, sieve, strainer } from "./seaPlates";

export const plates: Readonly<Record<string, Draw>> = {
  intake,
  leg,
  seacock,
  strainer,
  hose,
  sieve,
  "raw-pump": rawPump,
  impeller,
  belt,
  "raw-filter": filter,
  seals,
  "tube-plate": tubePlate,
  tubes,
  exchanger,
  "anti-siphon": antisiphon,
  "back-flush": backFlush,
  elbow,
  silencer,
  outlet,
  bucket,
  vee,
  block,
  joint,
  header,
  thermostat,
  "circ-pump": circPump,
  jar,
  "gas-tester": gasTester,
  cylinders,
  anode,
  gauge,
  teed,
  dipstick,
  bilge,
  tacho,
  sister,
  screws,
  "oil-port": oilPort,
  vessel,
  logger,
  gateway,
};
