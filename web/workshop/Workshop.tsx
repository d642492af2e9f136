import { plain } from "../../core/wording/format";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { toast } from "sonner";
import { type CraftSummary, contracts } from "../../api/contracts";
import type { Glance } from "../../core/glance";
import { Legend } from "../app/Legend";
import { call, sayError } from "../app/client";
import { usePreferences } from "../app/preferences";
import { useDelete } from "../app/useDelete";
import { Flag } from "../glyphs/Flag";
import { Post } from "../glyphs/Post";
import { Tally } from "../glyphs/Tally";
import { Keeping, Money, Notes } from "./Keeping";
import { ImportButton } from "./ImportCraft";
import { NewCraft } from "./NewCraft";

const BENCH_WIDTH = 180;
/** ms until the list is looked at again while verdicts are being worked out. */
const LOOK_AGAIN = 1500;

/** A craft from the side, as its parts, at the scale common to all. */
function Silhouette({ glance, scale }: { glance: Glance | null; scale: number }) {
  if (!glance) return <span className="w-[180px] text-pencil">being worked out …</span>;
  if (!glance.size) return <span className="w-[180px] text-pencil">no parts yet</span>;
  const per = (glance.size.length * scale) / 1000;
  const h = Math.max(glance.size.height * scale, 6);
  return (
    <svg
      width={BENCH_WIDTH}
      height={h + 2}
      viewBox={`0 0 ${BENCH_WIDTH} ${h + 2}`}
      aria-hidden="true"
      className="shrink-0"
    >
      {glance.boxes.map(([x, z, length, height], k) => (
        <rect
          key={k}
          x={x * per + 1}
          y={z * per + 1}
          width={Math.max(length * per, 1)}
          height={Math.max(height * per, 1)}
          fill="var(--part)"
          stroke="var(--ink)"
          strokeWidth="0.9"
        />
      ))}
    </svg>
  );
}

function CraftRow({ summary, scale }: { summary: CraftSummary; scale: number }) {
  const { habit } = usePreferences();
  const { name, newest, slug, glance, current } = summary;
  const worst = glance?.worst ?? null;
  const remove = useDelete();
  return (
    <li data-craft={slug} className="flex items-end gap-4 border-b-[3px] border-ink2 pt-4 max-[640px]:flex-wrap">
      <Silhouette glance={glance} scale={scale} />
      <div className="min-w-0 flex-1 pb-2 max-[640px]:order-first max-[640px]:basis-full">
        <Link to={`/craft/${slug}/${newest}/brief`} className="hover:underline">
          <h2 className="inline text-[16px]">{name}</h2>
        </Link>{" "}
        <span>{summary.summary}</span>
        <p className="mt-1 flex gap-2 text-ink">
          {worst ? (
            <>
              <Flag severity={worst.severity} />
              <span>
                {newest}: {worst.says[habit]}
              </span>
            </>
          ) : (
            `${newest}: ${glance ? "nothing to say yet" : "verdicts are being worked out"}`
          )}
        </p>
        <p className="text-[11px] text-pencil">
          {glance && !current && "verdicts as before the last change; being worked out again · "}
          {summary.runs} {summary.runs === 1 ? "run" : "runs"}, {summary.openFaults}{" "}
          {summary.openFaults === 1 ? "fault" : "faults"} open or unproven
        </p>
      </div>
      <div
        className="flex items-end gap-3 overflow-x-auto pb-1"
        role="img"
        aria-label={`Versions: ${summary.versions.map(([label]) => label).join(", ")}`}
      >
        {summary.hidden > 0 && <span className="text-[11px] text-pencil">{summary.hidden} older</span>}
        {summary.versions.map(([label, passed, failed, frozen]) => (
          <span key={label} className="flex flex-col items-center">
            <Post passed={passed} failed={failed} draft={frozen === 0} />
            <span className="text-[11px]">{label}</span>
          </span>
        ))}
      </div>
      <div className="flex w-28 flex-col items-end gap-1 pb-2">
        {glance && <Tally counts={glance.tally} />}
        <Link className="act act-first" to={`/craft/${slug}/${newest}/layout`} aria-label={`Open ${name}`}>
          Open
        </Link>
        <button
          type="button"
          className="link text-[11px]"
          aria-label={`Delete ${name}`}
          onClick={() =>
            void remove(`Delete ${name} with all its versions, runs and faults?`, `${name} was deleted.`, () =>
              call(contracts.deleteCraft, { params: { slug } }),
            )
          }
        >
          delete
        </button>
      </div>
    </li>
  );
}

/** What was deleted lately, each with its way back; nothing when nothing was. */
function DeletedLately() {
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: ["trash"], queryFn: () => call(contracts.listTrash, {}) });
  if (!data || data.length === 0) return null;
  const back = async (id: number) => {
    try {
      const { kind, name } = await call(contracts.restore, { params: { id } });
      toast.success(`${name} is back (${kind}).`);
    } catch (error) {
      toast.error(sayError(error));
    }
    await queries.invalidateQueries();
  };
  return (
    <section aria-label="Deleted lately" className="border-t border-hair px-4 py-3">
      <h2>Deleted lately</h2>
      <ul>
        {data.map((t) => (
          <li key={t.id} className="flex min-h-7 items-center gap-3 border-b border-hair">
            <span className="text-ink">{t.name}</span>
            <span className="text-[11px] text-pencil">
              {t.kind}, {t.deletedAt.slice(0, 16).replace("T", " ")}
            </span>
            <button
              type="button"
              className="link ml-auto"
              aria-label={`Bring back ${t.name}`}
              onClick={() => void back(t.id)}
            >
              bring it back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Home: all craft on the bench at one scale, and a new one from three numbers. */
export function Workshop() {
  const { data, error } = useQuery({
    queryKey: ["crafts"],
    queryFn: () => call(contracts.listCrafts, {}),
    // Verdicts are worked out in the background: looked for again until all are there.
    refetchInterval: ({ state }) => (state.data?.some((c) => !c.current) ? LOOK_AGAIN : false),
  });
  const longest = Math.max(0.1, ...(data ?? []).map((s) => s.glance?.size?.length ?? 0));
  const scale = (BENCH_WIDTH - 4) / longest;
  const { habit } = usePreferences();
  const bar = habit === "metric" ? 0.1 : 4 * 0.0254;
  return (
    <div className="workshop">
      <title>Workshop · Ultraform</title>
      <div className="brand">
        <b className="text-[15px] font-[650] text-ink [font-stretch:118%]">Ultraform</b>
        <span className="text-[11px]">{data ? `${data.length} craft` : ""}</span>
      </div>
      <header
        className={
          "flex items-center gap-6 border-b border-rule px-4 [grid-area:track] max-[640px]:flex-wrap " +
          "max-[640px]:gap-2 max-[640px]:py-2"
        }
      >
        <h1>Workshop</h1>
        <span className="text-pencil max-[640px]:hidden">
          size it, balance it, run it, find what failed, change one thing
        </span>
        <span className="ml-auto">
          <ImportButton />
        </span>
      </header>
      <div className="rail justify-end!">
        <Legend />
      </div>
      <main className="overflow-auto [grid-area:main]">
        <section aria-label="Craft" className="bg-sheet px-4 pb-5 pt-2">
          {error && <p className="text-stop">{sayError(error)}</p>}
          <Notes />
          {data && data.length > 0 && (
            <p className="flex items-center gap-2 text-[11px] text-pencil">
              all to one scale
              <svg width={bar * scale + 2} height="8" aria-hidden="true">
                <path d={`M1 1v6m0 -3h${bar * scale}m0 -3v6`} stroke="var(--pencil)" fill="none" />
              </svg>
              {plain(bar, "length", habit, 0)}
            </p>
          )}
          {data?.length === 0 && (
            <p className="pt-2 text-[15px] text-ink">No craft yet. Enter three numbers to start one.</p>
          )}
          <ul>
            {data?.map((s) => (
              <CraftRow key={s.slug} summary={s} scale={scale} />
            ))}
          </ul>
        </section>
        <NewCraft />
        <DeletedLately />
        <Money />
        <Keeping />
      </main>
    </div>
  );
}
