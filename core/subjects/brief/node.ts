import { subject } from "../../subject";

/** What is asked of the craft: nothing is computed here, only held against. */
export const brief = subject({
  name: "brief",
  reads: ["brief.targets"],
  compute: () => ({ status: "solved" as const, result: {} }),
});
