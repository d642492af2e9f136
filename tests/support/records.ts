import { FORMAT_VERSION } from "../../core/design/craftFile";
import {
  type CraftFile,
  type CraftFileInput,
  type Fault,
  type Run,
  type Version,
  craftFileSchema,
  newFault,
} from "../../core/design/craftFile";
import { quietDesign } from "./designs";

/** A version with a question and nothing else said of it. */
export const version = (
  label: string,
  parent: string | null,
  change: Partial<Version> = {},
): CraftFileInput["versions"][number] => ({
  label,
  parent,
  question: "",
  finding: "",
  reason: "",
  claims: [],
  createdAt: "2026-01-01T10:00:00Z",
  frozenAt: "2026-01-01T10:00:00Z",
  design: quietDesign(),
  ...change,
});

/** Run number n on day n of January, passed unless said otherwise. */
export const run = (
  number: number,
  label: string,
  stage: number,
  change: Partial<Run> = {},
): CraftFileInput["runs"][number] => ({
  number,
  version: label,
  date: `2026-01-${String(number).padStart(2, "0")}T12:00:00Z`,
  stage,
  purpose: "",
  place: "",
  pilot: "",
  conditions: { airTemperature: null, wind: null, surface: "" },
  pack: { name: "", restingVoltage: null, endVoltage: null, temperature: null },
  outcome: "passed",
  cautionsRead: true,
  notes: "",
  metrics: [],
  ...change,
});

export const faultOf = (number: number, inRun: number, change: Partial<Fault> = {}): Fault => ({
  ...newFault(inRun),
  number,
  title: `fault ${number}`,
  ...change,
});

/** A craft file of these records, checked. */
export const craft = (
  versions: CraftFileInput["versions"],
  runs: CraftFileInput["runs"] = [],
  faults: Fault[] = [],
): CraftFile =>
  craftFileSchema.parse({
    format: "ultraform-craft",
    formatVersion: FORMAT_VERSION,
    currency: "EUR",
    craft: { name: "Test", summary: "" },
    versions,
    runs,
    faults,
  });

export const versionOf = (file: CraftFile, label: string): Version => {
  const found = file.versions.find((v) => v.label === label);
  if (!found) throw new Error(label);
  return found;
};
