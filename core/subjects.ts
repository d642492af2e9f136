import { air } from "./subjects/air/node";
import { emptied } from "./subjects/authority/emptied";
import { authority } from "./subjects/authority/node";
import { verdicts as authorityVerdicts } from "./subjects/authority/verdicts";
import { falling } from "./subjects/axes/falling";
import { axes } from "./subjects/axes/node";
import { verdicts as axesVerdicts } from "./subjects/axes/verdicts";
import { balance } from "./subjects/balance/node";
import { verdicts as balanceVerdicts } from "./subjects/balance/verdicts";
import { box } from "./subjects/box/node";
import { verdicts as boxVerdicts } from "./subjects/box/verdicts";
import { brief } from "./subjects/brief/node";
import { verdicts as briefVerdicts } from "./subjects/brief/verdicts";
import { cost } from "./subjects/cost/node";
import { verdicts as costVerdicts } from "./subjects/cost/verdicts";
import { demand } from "./subjects/demand/node";
import { energy } from "./subjects/energy/node";
import { verdicts as energyVerdicts } from "./subjects/energy/verdicts";
import { extent } from "./subjects/extent/node";
import { verdicts as extentVerdicts } from "./subjects/extent/verdicts";
import { flight } from "./subjects/flight/node";
import { verdicts as flightVerdicts } from "./subjects/flight/verdicts";
import { lattice } from "./subjects/flight/latticeNode";
import { floats } from "./subjects/floats/node";
import { verdicts as floatVerdicts } from "./subjects/floats/verdicts";
import { foils } from "./subjects/foils/node";
import { verdicts as foilVerdicts } from "./subjects/foils/verdicts";
import { gas } from "./subjects/gas/node";
import { verdicts as gasVerdicts } from "./subjects/gas/verdicts";
import { lateral } from "./subjects/lateral/node";
import { verdicts as lateralVerdicts } from "./subjects/lateral/verdicts";
import { liftoff } from "./subjects/liftoff/node";
import { verdicts as liftoffVerdicts } from "./subjects/liftoff/verdicts";
import { pull } from "./subjects/liftoff/pull";
import { loop } from "./subjects/loop/node";
import { verdicts as loopVerdicts } from "./subjects/loop/verdicts";
import { mass } from "./subjects/mass/node";
import { verdicts as massVerdicts } from "./subjects/mass/verdicts";
import { keepsUp } from "./subjects/powered/keepsUp";
import { powered } from "./subjects/powered/node";
import { verdicts as poweredVerdicts } from "./subjects/powered/verdicts";
import { propulsion } from "./subjects/propulsion/node";
import { verdicts as propulsionVerdicts } from "./subjects/propulsion/verdicts";
import { ratios } from "./subjects/ratios/node";
import { verdicts as ratioVerdicts } from "./subjects/ratios/verdicts";
import { areaSpeed, speed } from "./subjects/speed/node";
import { verdicts as speedVerdicts } from "./subjects/speed/verdicts";
import { stand } from "./subjects/stand/node";
import { verdicts as standVerdicts } from "./subjects/stand/verdicts";
import { spin } from "./subjects/spin/node";
import { verdicts as spinVerdicts } from "./subjects/spin/verdicts";
import { stance } from "./subjects/stance/node";
import { verdicts as stanceVerdicts } from "./subjects/stance/verdicts";
import { turning } from "./subjects/turning/node";
import { waves } from "./subjects/waves/node";
import { verdicts as waveVerdicts } from "./subjects/waves/verdicts";
import { wind } from "./subjects/wind/node";
import { verdicts as windVerdicts } from "./subjects/wind/verdicts";
import { type AnySubject, judged } from "./subject";

/**
 * Every subject, in the order of computation: each stands behind those that it needs. To add one: its folder, one
 * line here, one line in design/schema.ts.
 */
// biome-ignore lint/suspicious/noExplicitAny: results differ from subject to subject
export const SUBJECTS: readonly AnySubject<any>[] = [
  judged(brief, briefVerdicts),
  air,
  judged(mass, massVerdicts),
  judged(extent, extentVerdicts),
  judged(balance, balanceVerdicts),
  judged(gas, gasVerdicts),
  judged(floats, floatVerdicts),
  judged(cost, costVerdicts),
  judged(propulsion, propulsionVerdicts),
  judged(ratios, ratioVerdicts),
  lattice,
  judged(flight, flightVerdicts),
  judged(waves, waveVerdicts),
  judged(lateral, lateralVerdicts),
  judged(powered, poweredVerdicts),
  pull,
  demand,
  keepsUp,
  judged(energy, energyVerdicts),
  judged(loop, loopVerdicts),
  areaSpeed,
  judged(speed, speedVerdicts),
  judged(stand, standVerdicts),
  emptied,
  judged(authority, authorityVerdicts),
  falling,
  judged(axes, axesVerdicts),
  judged(foils, foilVerdicts),
  judged(wind, windVerdicts),
  turning,
  judged(spin, spinVerdicts),
  judged(stance, stanceVerdicts),
  judged(liftoff, liftoffVerdicts),
  judged(box, boxVerdicts),
];
