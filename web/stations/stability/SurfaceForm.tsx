import type { z } from "zod";
import { type Surface, surfaceSchema } from "../../../core/design/schema";
import { DISPLAY } from "../../../core/design/units";
import { RING_PANELS, ringOf, ringPanels } from "../../../core/subjects/surfaces/patterns";
import { planformOf } from "../../../core/subjects/surfaces/planform";
import { SECTIONS, SECTION_NAMES, sectionOf } from "../../../core/subjects/surfaces/sections";
import { USUAL_VOLUMES, volumesOf } from "../../../core/subjects/surfaces/volumes";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { EntryOf, Group, Line, NumberLine } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { Controls } from "./Controls";
import { Panels } from "./Panels";

const SHAPE = surfaceSchema.shape;
const CHORD = SHAPE.chord as z.ZodType<number>;

const usual = (of: keyof typeof USUAL_VOLUMES) =>
  `common practice ${USUAL_VOLUMES[of].join(" to ")}; ` +
  `${of === "tail" ? "the margin decides" : "whether the wind turns it away decides"}`;

/** One surface: where it stands, its panels, its section, and what is hinged to it. */
export function SurfaceForm({ surface: s }: { surface: Surface }) {
  const { design, edit } = useDesk();
  const { habit } = usePreferences();
  const put = (change: (s: Surface) => void) =>
    edit((d) => {
      const found = d.surfaces.find((x) => x.id === s.id);
      if (found) change(found);
    });
  const plan = planformOf(s);
  const volumes = volumesOf(
    s,
    design.surfaces.filter((o) => o.medium === s.medium),
  );
  const ring = ringOf(s);
  const long = (v: number) => plain(v, "length", habit, habit === "metric" ? 0 : 2);
  return (
    <div className="px-4 py-3 text-[12px]">
      <section
        aria-label="Surface"
        className="grid grid-cols-3 gap-x-6 gap-y-4 max-[1000px]:grid-cols-2 max-[640px]:grid-cols-1"
      >
        <WhereItStands s={s} put={put} />
        <Group title="Section">
          <Line label="Section">
            <select
              className="box"
              aria-label="Section"
              value={s.section.family}
              onChange={(e) => put((x) => void (x.section.family = e.target.value as Surface["section"]["family"]))}
            >
              {SECTION_NAMES.map((n) => (
                <option key={n} value={n}>
                  {SECTIONS[n].word}
                </option>
              ))}
            </select>
          </Line>
          <SectionLines surface={s} put={put} />
          <NumberLine
            label="Incidence"
            hint="nose up against the x axis"
            value={s.incidence}
            dimension="angle"
            schema={SHAPE.incidence as z.ZodType<number>}
            onCommit={(v) => put((x) => void (x.incidence = v))}
          />
        </Group>
        <Group title="Gives">
          <Line label="Area">{plain(plan.area, "area", habit)}</Line>
          {plan.plan > 0.2 * plan.area && (
            <>
              <Line label="Span">{long(plan.span)}</Line>
              <Line label="Mean chord">{`${long(plan.mac)}, from ${long(plan.macX)}`}</Line>
              <Line label="Aspect ratio">{plan.aspect.toFixed(1)}</Line>
            </>
          )}
          {volumes && Math.abs(volumes.tail) >= 0.005 && (
            <Line label={volumes.tail < 0 ? "Canard volume" : "Tail volume"} hint={usual("tail")}>
              {Math.abs(volumes.tail).toFixed(2)}
            </Line>
          )}
          {volumes && volumes.fin >= 0.0005 && (
            <Line label="Fin volume" hint={usual("fin")}>
              {volumes.fin.toFixed(3)}
            </Line>
          )}
        </Group>
      </section>
      {ring === null ? (
        <Panels surface={s} put={put} />
      ) : (
        <section aria-label="Ring" className="mt-4 flex flex-wrap gap-x-6 gap-y-2">
          <NumberLine
            label="Diameter"
            value={ring}
            dimension="length"
            schema={CHORD}
            onCommit={(v) =>
              put((x) => {
                x.at.z += (v - ring) / 2;
                x.panels = ringPanels(v, x.chord, x.panels.length);
              })
            }
          />
          <NumberLine
            label="Chord"
            value={s.chord}
            dimension="length"
            schema={CHORD}
            onCommit={(v) =>
              put((x) => {
                x.chord = v;
                for (const p of x.panels) p.chord = v;
              })
            }
          />
          <p className="basis-full text-pencil">
            Reckoned as {2 * RING_PANELS} flat panels in a closed ring; z is that of its top, {DISPLAY[habit].length}.
          </p>
        </section>
      )}
      <Controls surface={s} put={put} />
    </div>
  );
}

/** Its name, place, angle, and how it is mirrored. */
function WhereItStands({ s, put }: { s: Surface; put: (change: (s: Surface) => void) => string | null }) {
  return (
    <Group title="Where it stands">
      <Line label="Name">
        <TextField boxed required label="Surface name" value={s.name} onCommit={(v) => put((x) => void (x.name = v))} />
      </Line>
      {(["x", "y", "z"] as const).map((axis) => (
        <NumberLine
          key={axis}
          label={{ x: "Leading edge, aft", y: "to starboard", z: "up" }[axis]}
          name={`Root ${axis}`}
          hint={axis === "y" && s.mirrored ? "0: both sides meet; a wing runs through its body" : undefined}
          value={s.at[axis]}
          dimension="length"
          onCommit={(v) => put((x) => void (x.at[axis] = v))}
        />
      ))}
      <Line label="Shape known by">
        <span className="flex items-center gap-2">
          <EvidenceSelect
            label="Shape known by"
            value={s.shapeBy}
            onChange={(level) => put((x) => void (x.shapeBy = level as Surface["shapeBy"]))}
          />
          {{ guess: "a guess", datasheet: "a drawing", measured: "measured", proven: "proven" }[s.shapeBy]}
        </span>
      </Line>
      <Line label="Sides">
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            checked={s.mirrored}
            onChange={(e) => put((x) => void (x.mirrored = e.target.checked))}
          />
          the same to port
        </label>
      </Line>
      <Line label="Works in">
        <select
          className="box"
          aria-label="Surface works in"
          value={s.medium}
          onChange={(e) => put((x) => void (x.medium = e.target.value as Surface["medium"]))}
        >
          <option>air</option>
          <option>water</option>
        </select>
      </Line>
      <EntryOf
        label="Part of the surface"
        value={s.itemId}
        empty="not listed"
        onChange={(id) => put((x) => void (x.itemId = id))}
      />
    </Group>
  );
}

/** The figures of its section: the family's, until something better is known. */
function SectionLines({ surface: s, put }: { surface: Surface; put: (change: (s: Surface) => void) => string | null }) {
  const now = sectionOf(s.section);
  const { habit } = usePreferences();
  return (
    <details>
      <summary className="min-h-6 cursor-pointer">
        lifts nothing at {plain(now.zeroLift, "angle", habit)}, at most {now.most.toFixed(2)}; drag{" "}
        {now.drag.toFixed(3)}
      </summary>
      <div className="mt-1 flex flex-col gap-1">
        <Line label="Angle without lift">
          <QuantityField
            boxed
            label="Angle without lift"
            value={s.section.zeroLift}
            dimension="angle"
            empty="of the family"
            onCommit={(v) => put((x) => void (x.section.zeroLift = v))}
          />
        </Line>
        {(["most", "drag"] as const).map((key) => (
          <Line key={key} label={key === "most" ? "Greatest lift" : "Profile drag"}>
            <QuantityField
              boxed
              label={key === "most" ? "Greatest lift coefficient" : "Profile drag coefficient"}
              value={s.section[key]?.value ?? null}
              dimension="ratio"
              empty="of the family"
              onCommit={(v) =>
                put((x) => void (x.section[key] = v === null ? null : { value: v, evidence: "datasheet" }))
              }
            />
          </Line>
        ))}
        <small className="text-pencil">
          Families at the speeds of small craft, from published surveys by memory: ± 10 % of greatest lift, ± 25 % of
          drag.
        </small>
      </div>
    </details>
  );
}
