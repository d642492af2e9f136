import { METRICS } from "../../design/metrics";
import type { Axis } from "../../design/schema";
import { verdict } from "../../subject";
import { plain } from "../../wording/format";
import { outOfEnvelope } from "../mass/clash";
import { slideSteps } from "../mass/tree";
import { advice, missed } from "../say";

const AXIS_METRIC = { x: "length", y: "width", z: "height" } as const;

/** Length, width or height beyond its limit. */
const sizeOver = verdict<{ label: string; by: number }>({
  find: (see) =>
    missed(
      see,
      ({ target: { metric } }) => metric === "length" || metric === "width" || metric === "height",
      "brief",
      (t) => {
        const { label } = METRICS[t.target.metric];
        return { params: { label, by: Math.abs(t.margin ?? 0) }, label };
      },
    ),
  remedies: () => [advice("Shorten or fold it")],
  says: (p, h) => `${p.label} is ${plain(p.by, "length", h)} over its limit`,
});

/** Parts that reach out of the envelope; the remedy moves the worst one inside when it fits. */
const outsideEnvelope = verdict<{ item: string; by: number; axis: Axis; others: number }>({
  find({ design }) {
    const out = outOfEnvelope(design);
    const worst = out[0];
    const item = design.items.find((i) => i.id === worst?.id);
    if (!worst || !item) return [];
    return [
      {
        page: "layout",
        severity: "care",
        about: item.id,
        params: { item: item.name, by: worst.by, axis: worst.axis, others: out.length - 1 },
        figure: {
          label: METRICS[AXIS_METRIC[worst.axis]].label,
          value: worst.by,
          sd: 0,
          dimension: "length",
          evidence: item.placeEvidence,
          limit: 0,
        },
      },
    ];
  },
  remedies({ design }, { about, params: { axis } }, h) {
    const item = design.items.find((i) => i.id === about);
    const { envelope } = design;
    if (!item || !envelope) return [];
    if (item.size[axis] > envelope.max[axis] - envelope.min[axis])
      return [advice("Fit a smaller one, or enlarge the envelope")];
    const low = envelope.min[axis] + item.size[axis] / 2;
    const high = envelope.max[axis] - item.size[axis] / 2;
    const by = Math.min(Math.max(item.place[axis], low), high) - item.place[axis];
    return [
      {
        code: "move-inside",
        text: `Move ${item.name} ${plain(Math.abs(by), "length", h, 0)} along ${axis}`,
        patch: { set: slideSteps(design.items, item, axis, by), addItems: [] },
      },
    ];
  },
  says: (p, h) =>
    `${p.item} reaches ${plain(p.by, "length", h)} out of the envelope along ` +
    `${p.axis}${p.others > 0 ? `, ${p.others} more` : ""}`,
});

export const verdicts = { "size-over": sizeOver, "outside-envelope": outsideEnvelope };
