import type { Gate, Run } from "../design/craftFile";
import type { DriveRow } from "./eachDrive";
import type { Mark } from "./marks";

/** What a run begins with, before anybody said anything at the site. */
export type FieldBegin = Pick<Run, "stage" | "state" | "place" | "pilot" | "conditions"> &
  Partial<Pick<Run, "purpose" | "course" | "plan" | "goneOn">>;

export interface FieldRung {
  stage: number;
  name: string;
  doing: string;
  abort: string[];
  gates: { gate: Gate; name: string }[];
  /** what stands against going up to it, in words */
  locked: string[];
}

/**
 * What a page at the site needs of one version, and nothing else: plain data in the user's words and units, small, to
 * be kept in the browser for where no server answers.
 */
export interface FieldSheet {
  /** raised when what it holds changes: an older one that was kept is not read */
  shape: typeof SHEET_SHAPE;
  craft: string;
  label: string;
  /** the state that it is of, and all that the craft has */
  state: { id: string; name: string };
  states: { id: string; name: string }[];
  begin: FieldBegin;
  plans: { number: number; begin: FieldBegin; cautions: string[] }[];
  rungs: FieldRung[];
  cautions: string[];
  marks: Mark[];
  drives: DriveRow[];
  /** s; null: not known */
  endurance: { value: number; sd: number } | null;
}
export const SHEET_SHAPE = 2;
