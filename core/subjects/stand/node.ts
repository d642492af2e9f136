import { subject } from "../../subject";

/** What the thrust stand taught of the drives: held against what they are now. */
export const stand = subject({
  name: "stand",
  reads: ["units"],
  compute: () => ({ status: "solved" as const, result: {} }),
});
