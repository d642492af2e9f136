import { METRICS } from "../design/metrics";
import type { UnitHabit } from "../design/units";
import type { AdviceCode, Finding, FindingCode, FindingParams, Remedy, RemedyCode, RemedyParams, Severity } from "../verdicts/types";
import { plain } from "./format";

export const SEVERITY_WORD: Record<Severity, string> = { stop: "Stop", care: "Care", note: "Note", clear: "Clear" };

type Words<P> = { [C in keyof P]: (params: P[C], habit: UnitHabit) => string };

const percent = (share: number) => `${Math.round(share * 100)} %`;
const times = (factor: number) => `${factor.toFixed(2)} ×`;
const inHundred = (odds: number) => `${Math.round(odds * 100)} in 100`;

const FINDINGS: Words<FindingParams> = {
  "cg-outside": (p, h) => `CG sits ${plain(p.by, "length", h)} ${p.side} its window`,
  "cg-doubtful": (p) => `CG is in its window by ${inHundred(p.odds)} only`,
  "cg-inside": (p) => `CG is inside its window, ${inHundred(p.odds)}`,
  "cg-sideways": (p, h) => `CG sits ${plain(p.by, "length", h)} to ${p.side}`,
  "cg-vertical": (p, h) => `CG sits ${plain(p.by, "length", h)} ${p.side} its window in height`,
  "slide-short": (p, h) => `No slide range reaches the CG window: ${p.item} ends ${plain(p.by, "length", h)} short of it`,
  "outside-envelope": (p, h) => `${p.item} reaches ${plain(p.by, "length", h)} out of the envelope along ${p.axis}${p.others > 0 ? `, ${p.others} more` : ""}`,
  "pair-unequal": (p, h) => `${p.a} and ${p.b} are not a pair: ${p.mass > 0 ? `${plain(p.mass, "mass", h, 1)} apart` : `${plain(p.place, "length", h)} out of mirror`}`,
  "pair-odd": (p) => `${p.item} is a mirrored pair of ${p.quantity} pieces: half of each side cannot be`,
  "ballast-share": (p, h) => `${plain(p.mass, "mass", h)} is there for balance alone, ${percent(p.share)} of the craft`,
  surprise: (p, h) =>
    `${p.item} came out ${plain(p.by, "mass", h)} over what was ${p.against}${p.atNose !== null ? `: it costs ${plain(p.atNose, "mass", h)} more in the nose` : ""}`,
  unweighed: (p) => `${percent(p.share)} of the mass has not been weighed, ${p.first} first`,
  "slide-outside": (p, h) => `${p.item} stands ${plain(p.by, "length", h)} outside its slide range`,
  "mass-over": (p, h) => `${plain(p.by, "mass", h)} over the mass limit`,
  "nothing-left": (p, h) => `Nothing is left for ${p.open} ${p.open === 1 ? "part" : "parts"} without a mass: already ${plain(p.by, "mass", h)} over`,
  growth: (p, h) => `${percent(p.share)} heavier than ${p.from}${p.expected > 0.0005 ? `, and ${plain(p.expected, "mass", h)} more to expect` : ""}`,
  "mass-missing": (p) => (p.count === 1 ? `${p.first} has no mass: every sum leaves it out` : `${p.count} parts have no mass, ${p.first} first: every sum leaves them out`),
  "size-over": (p, h) => `${METRICS[p.metric].label} is ${plain(p.by, "length", h)} over its limit`,
  "cost-over": (p) => `${plain(p.by, "money")} over the budget`,
  "thrust-short": (p) => `Thrust is short: ${times(p.factor)} as much is asked`,
  "cannot-lift": (p) => `Full throttle cannot lift it: ${times(p.factor)} the thrust is missing to equal the weight`,
  "lift-throttle": (p) => `Hovers at ${percent(p.throttle)} throttle: little is left to steer with`,
  "motor-current": (p) => `${p.drive ? `${p.drive}: motor` : "Motor"} current is ${times(p.factor)} its rating`,
  "controller-current": (p) => `${p.drive ? `${p.drive}: the controller` : "Controller"} carries ${times(p.factor)} its rating`,
  "conductor-current": (p) => `${p.name} carries ${times(p.factor)} what it is made for`,
  "brown-out": (p) => `${p.rail} browns out: the pack sags ${plain(p.short, "voltage")} below what it needs`,
  "rail-current": (p) => `${p.rail} is asked for ${times(p.factor)} its current when everything on it peaks`,
  "spin-unmatched": (p) => `The propellers' torques do not cancel: ${percent(p.share)} of them is left to spin the craft`,
  "sharing-unequal": (p) => `${p.hottest} works at ${percent(p.share)} of its rating while ${p.idle} has the most to spare`,
  "speed-short": (p) => `Too slow: ${times(p.factor)} the speed is asked`,
  "steep-change": (p) => `One inch more of propeller would draw ${times(p.factor)} the current: over the limit`,
  "never-closes": (p) => `No pack lasts ${plain(p.time, "time", "metric", 0)} with this drive: what each adds in mass asks for as much again`,
  "pair-excludes": (p, h) =>
    `${plain(p.limit, "mass", h)} and ${plain(p.time, "time", "metric", 0)} cannot both hold with this drive: the time alone takes ${plain(p.mass, "mass", h)}`,
  "masked-failure": (p) => `One of ${p.drives} propellers could be dead and nobody would see: ${percent(p.left)} of what is asked would be left`,
  "fast-throttle": (p) => `${p.drive ? `${p.drive}: a` : "A"} slammed throttle asks for ${times(p.factor)} the controller's rating before the motor turns`,
  "duty-needs": (p) => `Endurance waits for the ${p.what}`,
  "pack-current": (p) => `Pack gives ${times(p.factor)} its rated current`,
  "pack-floor": (p) => `Full throttle pulls the cells to ${plain(p.cell, "voltage")}: the controller will cut off`,
  "cells-over": (p) => `${p.cells} cells in series are more than the controller takes`,
  "currents-hold": (p) => `Motor, controller and pack hold the current, ${percent(p.share)} at most`,
  "endurance-short": (p) => `Lasts ${percent(p.share)} of the time asked`,
  "pack-too-big": (p) => `The pack lasts ${times(p.times)} the time asked: it is far too big`,
  "pack-share": (p) => `Packs are ${percent(p.share)} of the whole craft`,
  "cold-pack": (p) => `Pack starts at ${plain(p.temperature, "temperature", "metric", 0)}: its resistance is ${times(p.factor)} that of a warm one`,
  "tip-speed": (p) => `Blade tips reach Mach ${p.mach.toFixed(2)}`,
  "blade-stall": (p) => `${percent(p.share)} of the blade is stalled standing still, pitch ${p.ratio.toFixed(2)} of the diameter`,
  "thrust-line": (p) =>
    `Full throttle pitches the nose ${p.shift > 0 ? "down" : "up"}: thrust passes ${plain(Math.abs(p.arm), "length", "metric", 0)} ${p.arm > 0 ? "above" : "below"} the CG`,
  "count-differs": (p) => `The drive has ${p.drive} propellers, the ledger ${p.ledger}`,
  "not-solved": (p) => `The drive has no operating point (${p.reason})`,
  "drive-missing": (p) => (p.what === "both" ? "No drive and no pack yet: thrust and endurance are unknown" : `No ${p.what} yet: thrust and endurance are unknown`),
  "targets-missing": (p) => (p.which === "all" ? "No targets yet: nothing to hold the craft against" : "No window for the CG yet: say where it must be"),
  "rests-on-guess": (p) => `${METRICS[p.metric].label} rests on a guess`,
  "sweep-stale": (p) => `What the stand taught of ${p.drive} is stale: ${p.changed} changed since${p.carried ? "; its factors are carried over with more doubt" : ""}`,
  "sweep-other-pack": (p) => `${p.drive} was on the stand with another pack than ${p.pack}`,
  "copies-unmeasured": (p) => `Measure one before building ${p.count}: no ${p.drive} has been on the stand`,
  "thrust-unmeasured": (p) => `The thrust of ${p.drive} is a promise: it has never been measured`,
};

const ADVICE: Record<AdviceCode, string> = {
  "weigh-parts": "Weigh it, or enter a guess with its doubt",
  "describe-drive": "Describe pack, motor and propeller in Power",
  "set-targets": "State targets in Brief",
  lighten: "Lighten, or take something off",
  "weigh-first": "Weigh what blurs it most (see below)",
  "measure-one": "Measure the weakest input before building on it",
  cheaper: "Look on the shelf first",
  shorten: "Shorten or fold it",
  "compare-currents": "Compare the current of each drive in every run",
  "slow-ramp": "Let the throttle take half a second, and test size against ramp on the bench",
  "split-loads": "Move loads to a regulator of their own",
  "time-a-run": "Time one straight run at full throttle: Power turns it into a drag area",
  "even-out": "Give each drive a motor and propeller that share the work",
  "find-why": "Find what made it heavy before building another",
  "sweep-one": "Sweep one on the thrust stand, about 25 minutes",
  "smaller-inside": "Fit a smaller one, or enlarge the envelope",
  "check-pitch": "Try short power pulses low and slow before full throttle",
};

const REMEDIES: Words<RemedyParams> = {
  "move-part": (p, h) => `Move ${p.item} ${plain(Math.abs(p.by), "length", h, 0)} ${p.by < 0 ? "forward" : "aft"}`,
  "move-part-across": (p, h) => `Move ${p.item} ${plain(Math.abs(p.by), "length", h, 0)} to ${p.by > 0 ? "starboard" : "port"}`,
  "add-ballast": (p, h) => `Add ${plain(p.mass, "mass", h)} at x ${plain(p.x, "length", h, 0)}${p.y === 0 ? "" : `, y ${plain(p.y, "length", h, 0)}`}`,
  "slide-and-ballast": (p, h) => `Move ${p.item} ${plain(Math.abs(p.by), "length", h, 0)} ${p.by < 0 ? "forward" : "aft"} and add ${plain(p.mass, "mass", h)} at the ${p.spot}`,
  "widen-slide": (p, h) => `Let ${p.item} slide to ${plain(p.to, "length", h, 0)} and move it there`,
  "drop-ballast": (p, h) => `Take out ${plain(p.mass, "mass", h)} and move ${p.item} ${plain(Math.abs(p.by), "length", h, 0)} ${p.by < 0 ? "forward" : "aft"} instead`,
  "move-inside": (p, h) => `Move ${p.item} ${plain(Math.abs(p.by), "length", h, 0)} along ${p.axis}`,
  "even-pair": (p, h) => `Place ${p.item} at y ${plain(p.y, "length", h, 0)}`,
  "move-into-range": (p, h) => `Move ${p.item} to ${plain(p.to, "length", h, 0)}`,
  "fit-diameter": (p, h) => `Fit a propeller of ${plain(p.diameter, "length", h, 0)}, ${p.diameter > p.from ? "up" : "down"} from ${plain(p.from, "length", h, 0)}`,
  "fit-pitch": (p, h) => `Fit a pitch of ${plain(p.pitch, "length", h, 0)}, down from ${plain(p.from, "length", h, 0)}`,
  "limit-throttle": (p) => `Limit throttle to ${percent(p.throttle)}`,
  "fit-conductor": (p) => `Fit ${p.name} for ${plain(p.current, "current", "metric", 0)}`,
  "fit-regulator": (p) => `Fit ${p.name} for ${plain(p.current, "current", "metric", 1)}`,
  "pair-spin": (p) => `Let half of ${p.name} turn the other way`,
  "fit-controller": (p) => `Fit a controller for ${plain(p.current, "current", "metric", 0)}`,
  "fit-controller-cells": (p) => `Fit a controller for ${p.cells} cells`,
  "fit-pack": (p, h) => `Fit a pack of ${plain(p.capacity, "capacity")}${p.mass > 0 ? `, about ${plain(p.mass, "mass", h)}` : ""}`,
  "warm-pack": (p) => `Start with the pack at ${plain(p.temperature, "temperature", "metric", 0)}`,
  "tilt-thrust": (p) => `Tilt the thrust line to ${plain(Math.abs(p.tilt), "angle")} ${p.tilt < 0 ? "down" : "up"}, through the CG`,
  "set-quantity": (p) => `Set ${p.item} to ${p.quantity}`,
  "ask-for": (p, h) => `Ask for ${plain(p.value, METRICS[p.metric].dimension, h)} instead`,
  advice: (p) => ADVICE[p.text],
};

/** The sentence of a finding. */
export function findingText(finding: Finding, habit: UnitHabit = "metric"): string {
  return (FINDINGS[finding.code] as (p: FindingParams[FindingCode], h: UnitHabit) => string)(finding.params, habit);
}

/** A remedy as verb, amount and unit. */
export function remedyText(remedy: Remedy, habit: UnitHabit = "metric"): string {
  return (REMEDIES[remedy.code] as (p: RemedyParams[RemedyCode], h: UnitHabit) => string)(remedy.params, habit);
}
