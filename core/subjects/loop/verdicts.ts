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

/** No pack lasts the time with this drive: the loop runs away, or the drives cannot carry what it would weigh. */
const neverCloses = verdict<{
  time: number;
  because: "runsAway" | "outOfThrust" | "packTooLarge";
  mass: number;
  bare: boolean;
}>({
  find(see) {
    const at = pair(see);
    const status = at?.result.status;
    if (!at || (status !== "runsAway" && status !== "outOfThrust" && status !== "packTooLarge")) return [];
    return [
      {
        page: "brief",
        severity: "stop",
        about: at.long.id,
        params: { time: at.long.value, because: status, mass: at.result.mass, bare: at.result.turns.length === 0 },
        figure:
          status === "runsAway"
            ? figure("share of each turn that the next adds again", at.result.gain, 0, "ratio", at.ledger.evidence, 1)
            : null,
      },
    ];
  },
  remedies: () => [LIGHTEN],
  says(p, h) {
    const mass = plain(p.mass, "mass", h);
    if (p.because === "outOfThrust" && p.bare)
      return `The drives cannot hold the duty at ${mass}, without the pack: it is not the time that is at fault`;
    const none = `No pack can give ${plain(p.time, "time", "metric", 0)} with this drive`;
    if (p.because === "outOfThrust")
      return `${none}: with one that would, at ${mass}, the duty cannot be held any more`;
    return p.because === "packTooLarge"
      ? `${none}, not one of many times the craft's mass`
      : `${none}: a bigger one weighs more than it helps`;
  },
});

/**
 * Mass limit and wanted time that exclude each other with this drive: the sizing loop settles above the limit. Where
 * the craft is over the limit without its pack the time is not at fault.
 */
const pairExcludes = verdict<{
  mass: number;
  time: number;
  limit: number;
  target: string;
  bare: number;
  byCurrent: boolean;
}>({
  find(see) {
    const at = pair(see);
    if (at?.result.status !== "closes" || at.result.mass <= at.heavy.value) return [];
    return [
      {
        page: "brief",
        severity: "stop",
        about: `${at.heavy.id}+${at.long.id}`,
        params: {
          mass: at.result.mass,
          time: at.long.value,
          limit: at.heavy.value,
          target: at.heavy.id,
          bare: at.result.bare,
          byCurrent: at.result.sizedBy === "current",
        },
        figure: figure(
          "all-up mass for that time",
          at.result.mass,
          at.ledger.massSd,
          "mass",
          at.ledger.evidence,
          at.heavy.value,
        ),
      },
    ];
  },
  remedies: (_see, { params: p }, h) => [
    ...(p.bare >= p.limit ? [LIGHTEN] : []),
    askFor(p.target, "mass", p.mass, p.mass * 1.005, h),
  ],
  says(p, h) {
    const limit = plain(p.limit, "mass", h);
    if (p.bare >= p.limit)
      return (
        `${limit} cannot hold whatever the time: without its pack the craft already weighs ` +
        `${plain(p.bare, "mass", h)}`
      );
    const time = plain(p.time, "time", "metric", 0);
    const pack = p.byCurrent ? ", whose current needs a pack of that size" : "";
    return `${time} needs at least ${plain(p.mass, "mass", h)} with this drive${pack}; your limit is ${limit}`;
  },
});

export const verdicts = { "never-closes": neverCloses, "pair-excludes": pairExcludes };
