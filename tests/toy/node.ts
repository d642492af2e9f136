import { type Outcome, subject } from "../../subject";
import { air } from "../air/node";

export const windage = subject({
  name: "windage",
  reads: ["sideArea" as never, "brief.environment"],
  needs: [air],
  gives: ["sideForce" as never],
  compute(view, of): Outcome<{ force: number; area: number }> {
    const area = (view as unknown as { sideArea?: { value: number } | null }).sideArea;
    const medium = of(air);
    if (!area || medium.status !== "solved") return { status: "missing", needs: ["side area"] };
    return {
      status: "solved",
      result: { area: area.value, force: 0.5 * medium.result.density * view.brief.environment.wind ** 2 * area.value },
    };
  },
  quantities: ({ force }) =>
    ({
      sideForce: { value: force, sd: 0.1 * force, dimension: "force" as const, evidence: "guess" as const },
    }) as never,
  working: (_key, { area }) => [
    { name: "Side area", value: area, sd: 0.1 * area, dimension: "area", evidence: "guess", share: 1, source: null },
  ],
});
