/** What a test puts at risk. A risk to a person and a risk to a part are never weighed as equals. */
export const RISKS = ["none", "a part", "a person"] as const;
export type Risk = (typeof RISKS)[number];
