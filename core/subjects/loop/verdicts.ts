import { type See, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { mass } from "../mass/node";
import { LIGHTEN, askFor, figure } from "../say";
import { loop } from "./node";

/** The limits of mass and time with the loop between them, when one of them is missed. */
function pair(see: See) {
  const heavy = see.targets.find((t) => t.target.metric === "auw" && t.target.comparison === "atMost");
  const long = see.targets.find((t) => t.target.metric === "endurance" && t.target.comparison === "atLeast");
  const ledger = see.result(mass);
  // While both hold there is nothing to say.
  if (!heavy || !long || !ledger || (heavy.status !== "missed" && long.status !== "missed")) return null;
  const result = see.result(loop);
  return result && { heavy: heavy.target, long: long.target, ledger, result };
}

/** No pack lasts the time with this drive: the loop runs away. */
const neverCloses = verdict<{ time: number }>({
  find(see) {
    const at = pair(see);
    if (at?.result.status !== "runsAway") return [];
    return [
      {
        page: "brief",
        severity: "stop",
        about: at.long.id,
        params: { time: at.long.value },
        figure: figure("share of each turn that the next adds again", at.result.gain, 0, "ratio", at.ledger.evidence, 1),
      },
    ];
  },
  remedies: () => [LIGHTEN],
  says: (p) => `No pack lasts ${plain(p.time, "time", "metric", 0)} with this drive: what each adds in mass asks for as much again`,
});

/** Mass limit and wanted time that exclude each other with this drive: the sizing loop settles above the limit. */
const pairExcludes = verdict<{ mass: number; time: number; limit: number; target: string }>({
  find(see) {
    const at = pair(see);
    if (at?.result.status !== "closes" || at.result.mass <= at.heavy.value) return [];
    return [
      {
        page: "brief",
        severity: "stop",
        about: `${at.heavy.id}+${at.long.id}`,
        params: { mass: at.result.mass, time: at.long.value, limit: at.heavy.value, target: at.heavy.id },
        figure: figure("all-up mass for that time", at.result.mass, at.ledger.massSd, "mass", at.ledger.evidence, at.heavy.value),
      },
    ];
  },
  remedies: (_see, { params: p }, h) => [askFor(p.target, "mass", p.mass, p.mass * 1.005, h)],
  says: (p, h) => `${plain(p.limit, "mass", h)} and ${plain(p.time, "time", "metric", 0)} cannot both hold with this drive: the time alone takes ${plain(p.mass, "mass", h)}`,
});

export const verdicts = { "never-closes": neverCloses, "pair-excludes": pairExcludes };
